import type { OutputOf } from '@zaguan/contracts';
import type { wishesOfVisit } from '@zaguan/contracts/desk';
import type { TFunction } from 'i18next';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { wallTime, weekdayNames } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { accountsApi } from '../accounts/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { bookingApi } from './booking.api.ts';

type Wish = OutputOf<typeof wishesOfVisit>['wishes'][number];

/** That a visit's patient would come sooner, and when; nothing where they would not. */
export function SoonerOfVisit({ visitId }: { visitId: string }) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const { currentData } = bookingApi.useWishesQuery({ id: visitId as never });
  const undo = useUndoToast();
  const [end, { isLoading }] = bookingApi.useEndWishMutation();
  const wishes = currentData?.wishes ?? [];
  const onEnd = async (id: string) => {
    const result = await end({ id } as never);
    const refused = apiError(result.error);
    if (refused) toast.error(t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId }));
    else if (result.data) undo(t('book.soonerEnded'), result.data.undo.id);
  };
  return wishes.map((wish) => (
    <p key={wish.id} className="flex items-baseline gap-2" data-wish={wish.id}>
      <span className="min-w-0 flex-1">
        <b>{t('book.sooner')}</b> {wishWords(t, wish, (id) => nameIn(clinic, id))}
      </span>
      <Button look="plain" className="px-1 py-0 underline" disabled={isLoading} onClick={() => void onEnd(wish.id)}>
        {t('book.noLonger')}
      </Button>
    </p>
  ));
}

interface Named {
  readonly id: string;
  readonly name: string;
}

function nameIn(clinic: { sites: readonly Named[]; people: readonly Named[] } | undefined, id: string): string {
  return [...(clinic?.sites ?? []), ...(clinic?.people ?? [])].find((each) => each.id === id)?.name ?? '';
}

/** On which days, when, where, with whom, and how soon they must hear. */
function wishWords(t: TFunction, wish: Wish, nameOf: (id: string) => string): string {
  const names = weekdayNames('en', 'short');
  return [
    wish.weekdays?.map((day) => names[day - 1]).join(', '),
    (wish.fromMinute > 0 || wish.toMinute < 1440) &&
      t('daybook.range', { from: wallTime(wish.fromMinute), until: wallTime(wish.toMinute) }),
    wish.siteIds?.map(nameOf).join(', '),
    wish.providerIds?.map(nameOf).join(', '),
    t('book.withNotice', { count: wish.noticeMin / 60 }),
  ]
    .filter(Boolean)
    .join(' · ');
}
