import type { DaybookDay } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { WhyNotPanel } from '../../openings/index.ts';
import type { Panel } from '../hooks/useDaybookAddress.ts';
import type { TypeNames } from './LaneView.tsx';
import { VisitPanel } from './VisitPanel.tsx';

/** At the right: the visit that was opened, or the question that was asked. */
export function SidePanel({
  day,
  types,
  panel,
  onOpen,
  onClose: close,
}: {
  day: DaybookDay;
  types: TypeNames;
  panel: Panel;
  onOpen: (panel: Panel) => void;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const { data: who } = accountsApi.useWhoAmIQuery({});
  if (!who?.me) return null;
  return (
    <aside
      aria-label={t(panel.kind === 'visit' ? 'daybook.title' : 'whyNot.title')}
      className="flex w-[310px] shrink-0 flex-col overflow-y-auto border-l border-line bg-surface px-4 py-3"
      onKeyDown={(event) => event.key === 'Escape' && close()}
    >
      <Button look="plain" className="-mt-1 -mr-2 self-end" onClick={close}>
        {t('close')}
      </Button>
      {panel.kind === 'visit' ? (
        <VisitPanel
          key={panel.visitId}
          day={day}
          visitId={panel.visitId}
          types={types}
          role={who.me.role}
          onClose={close}
        />
      ) : (
        <WhyNotPanel asked={panel} onChange={(asked) => onOpen({ kind: 'why-not', ...asked })} />
      )}
    </aside>
  );
}
