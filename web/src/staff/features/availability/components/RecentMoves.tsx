import type { OutputOf } from '@zaguan/contracts';
import type { visitsToMove } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateTimeOf, OWN_ZONE } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { undoApi } from '../../undo/index.ts';

/** How many of the moves are listed; older ones are found in each visit's history. */
const MAX_LISTED = 3;

/** What one moved within the last day, to be taken back: longer than a message that goes away by itself. */
export function RecentMoves({ moves }: { moves: OutputOf<typeof visitsToMove>['moves'] }) {
  const { t } = useTranslation();
  const [undo, { isLoading }] = undoApi.useUndoMutation();
  if (!moves.length) return null;
  const takeBack = async (id: string) => {
    const result = await undo({ id: id as never });
    const refused = 'error' in result ? apiError(result.error) : null;
    if (refused) toast.error(t(`error.${refused.tag}`, { requestId: refused.requestId }));
    else toast(t('undone'));
  };
  return (
    <section
      aria-label={t('schedule.recentMoves')}
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-surface-deep px-4 py-1.5"
    >
      {moves.slice(0, MAX_LISTED).map(({ undoId, at, visits }) => (
        <span key={undoId} className="flex items-center gap-2">
          {t('schedule.movedAt', { count: visits, at: dateTimeOf(at, OWN_ZONE) })}
          <Button look="plain" disabled={isLoading} onClick={() => void takeBack(undoId)}>
            {t('undo')}
          </Button>
        </span>
      ))}
    </section>
  );
}
