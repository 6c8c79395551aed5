import type { ComponentProps } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../shared/ui/Button.tsx';

interface Props {
  readonly of: { readonly isSending: boolean; readonly giveUp: () => void };
  readonly send: string;
  readonly look?: ComponentProps<typeof Button>['look'];
  readonly leave?: string;
  readonly onLeave?: () => void;
  /** Leaving forgets what was typed; otherwise it is there when the form is opened again. */
  readonly forgets?: boolean;
}

/** The two buttons of most forms: send it, or leave it. */
export function FormActions({ of, send, look = 'primary', leave, onLeave, forgets }: Props) {
  const { t } = useTranslation();
  return (
    <div className="flex flex-wrap gap-2">
      <Button type="submit" look={look} disabled={of.isSending}>
        {of.isSending ? t('saving') : send}
      </Button>
      {leave && (
        <Button
          onClick={() => {
            if (forgets) of.giveUp();
            onLeave?.();
          }}
        >
          {leave}
        </Button>
      )}
    </div>
  );
}
