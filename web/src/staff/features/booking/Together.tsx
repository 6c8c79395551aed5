import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../shared/ui/Button.tsx';
import { QueryFrame } from '../../shell/QueryFrame.tsx';
import { bookingApi } from './booking.api.ts';
import { type Flow, type GroupVisit, groupOf, type People, togetherOf, type Wanted } from './flow.ts';
import { useNames } from './useNames.ts';

interface Props {
  readonly flow: Flow;
  readonly wanted: Wanted;
  readonly context: People;
  /** The date to look from. */
  readonly from: string;
  /** The site that is looked at; `null`: any. */
  readonly siteId: string | null;
  readonly onChoose: (group: readonly GroupVisit[]) => void;
}

const MAX_SHOWN = 5;

/** Times at which everybody can come, or one comes every time: a press chooses them all. Once chosen, others step back. */
export function Together(props: Props) {
  const { t } = useTranslation();
  const [isLooking, setLooking] = useState(false);
  if (props.flow.group && !isLooking)
    return (
      <Button look="plain" className="self-start underline" onClick={() => setLooking(true)}>
        {t('book.otherTimes')}
      </Button>
    );
  return (
    <TimesTogether
      {...props}
      onChoose={(group) => {
        setLooking(false);
        props.onChoose(group);
      }}
    />
  );
}

function TimesTogether({ flow, wanted, context, from, siteId, onChoose }: Props) {
  const { t } = useTranslation();
  const { clinic } = useNames();
  const [where, setWhere] = useState(siteId ?? '');
  const siteIds = where ? [where] : (clinic?.sites ?? []).map(({ id }) => id);
  const query = bookingApi.useTimesTogetherQuery(togetherOf(flow, wanted, { context, siteIds, from }), {
    skip: !siteIds.length,
  });
  const found = query.currentData;
  return (
    <section aria-label={t('book.when')} className="flex flex-col gap-1.5">
      <label className="flex items-center gap-2">
        <span className="font-semibold">{t('book.whenAt')}</span>
        <select
          name="togetherAt"
          className="min-w-0 flex-1 rounded-md border border-line-strong bg-panel px-2 py-1"
          value={where}
          onChange={(event) => setWhere(event.target.value)}
        >
          <option value="">{t('find.anySite')}</option>
          {clinic?.sites.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {!found && <QueryFrame query={query} bars={3} />}
      {found?.together.length === 0 && <p>{t(found.gaveUp ? 'find.gaveUp' : 'book.noneTogether')}</p>}
      <ul className="flex flex-col gap-1.5">
        {found?.together.slice(0, MAX_SHOWN).map((times, i) => (
          <li key={times.map(({ start, providerId }) => `${start} ${providerId}`).join()}>
            <Proposal
              number={i + 1}
              flow={flow}
              context={context}
              group={groupOf(flow, times)}
              onChoose={() => onChoose(groupOf(flow, times))}
            />
          </li>
        ))}
      </ul>
      {found?.gaveUp && found.together.length > 0 && <p className="text-warning">{t('find.gaveUpMore')}</p>}
    </section>
  );
}

/** Times that hold together, by time; what they share is said once. */
function Proposal({
  number,
  flow,
  context,
  group,
  onChoose,
}: {
  number: number;
  flow: Flow;
  context: People;
  group: readonly GroupVisit[];
  onChoose: () => void;
}) {
  const { whenOf, timeIn, providerOf, typeOf, siteOf } = useNames();
  const isChosen = isSameGroup(flow.group, group);
  const [first, ...rest] = group.toSorted((a, b) => a.start.localeCompare(b.start));
  const isOneType = rest.every(({ visitTypeId }) => visitTypeId === first.visitTypeId);
  const isOneSite = rest.every(({ siteId }) => siteId === first.siteId);
  const wordsOf = (visit: GroupVisit) =>
    [
      flow.others.length ? nameIn(context, visit.patientId ?? context.patient.id) : '',
      isOneType ? '' : typeOf(visit.visitTypeId),
      providerOf(visit.providerId),
      isOneSite ? '' : siteOf(visit.siteId),
    ]
      .filter(Boolean)
      .join(' · ');
  return (
    <button
      type="button"
      data-proposal={number}
      aria-pressed={isChosen}
      className={`flex w-full items-baseline gap-2 rounded-md border px-3 py-2 text-left ${isChosen ? 'border-accent bg-accent-subtle' : 'border-accent bg-panel hover:bg-accent-subtle'}`}
      onClick={onChoose}
    >
      <span className="min-w-0 flex-1">
        {[first, ...rest].map((visit, at) => (
          <span key={`${visit.patientId} ${visit.start}`} className="block">
            <b>{at > 0 && flow.others.length ? timeIn(visit) : whenOf(visit)}</b>{' '}
            <span className={isChosen ? 'text-foreground' : 'text-muted'}>{wordsOf(visit)}</span>
          </span>
        ))}
        {isOneSite && <span className="block text-muted">{siteOf(first.siteId)}</span>}
      </span>
      <kbd className="rounded-sm border border-line-strong px-1.5 text-sm">{number}</kbd>
    </button>
  );
}

/** Of somebody of the booking. */
export function nameIn({ patient, household }: People, id: string): string {
  return id === patient.id ? patient.name : (household.find((member) => member.id === id)?.name ?? '');
}

function isSameGroup(a: readonly GroupVisit[] | null, b: readonly GroupVisit[]): boolean {
  return (
    a?.length === b.length &&
    a.every(({ start, providerId }, i) => start === b[i].start && providerId === b[i].providerId)
  );
}
