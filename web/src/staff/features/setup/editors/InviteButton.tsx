import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateTimeOf, OWN_ZONE } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { setupApi } from '../setup.api.ts';

/** Makes an invitation; its link is shown this once, to be handed on. */
export function InviteButton({ id }: { id: string }) {
  const { t } = useTranslation();
  const [invite, { data, error, isLoading }] = setupApi.useInviteMutation();
  const [copied, setCopied] = useState(false);
  const refused = apiError(error);
  const link = data && `${window.location.origin}${data.link}`;
  return (
    <span className="flex flex-col items-end gap-2">
      <Button disabled={isLoading} onClick={() => void invite({ id })}>
        {t('setup.invite')}
      </Button>
      {link && (
        <Notice tone="success">
          <p>{t('setup.inviteLink', { until: dateTimeOf(data.until, OWN_ZONE) })}</p>
          <input
            readOnly
            aria-label={t('setup.linkLabel')}
            className="mt-1 w-64 rounded-md border border-line-strong bg-panel px-2 py-1"
            value={link}
            onFocus={(event) => event.target.select()}
          />
          <Button
            className="ml-1"
            onClick={() => void navigator.clipboard?.writeText(link).then(() => setCopied(true))}
          >
            {t(copied ? 'setup.copied' : 'setup.copy')}
          </Button>
        </Notice>
      )}
      {refused && <Notice tone="danger">{t(`error.${refused.tag}`, { requestId: refused.requestId })}</Notice>}
    </span>
  );
}
