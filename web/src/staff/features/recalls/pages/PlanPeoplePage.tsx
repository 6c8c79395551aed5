import type { ListedPerson } from '@zaguan/contracts/recalls';
import type { RecallState } from '@zaguan/core/recalls';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { KeptTyping, useKeptState } from '../../../forms/index.ts';
import { Page } from '../../../shell/Page.tsx';
import { useAddress } from '../../../shell/useAddress.ts';
import { useSayRefused } from '../../../shell/useSayRefused.ts';
import { accountsApi } from '../../accounts/index.ts';
import { InvitePanel, useMayInvite } from '../../invitations/index.ts';
import { useRecords } from '../../setup/index.ts';
import { PeopleTable } from '../PeopleTable.tsx';
import { recallsApi } from '../recalls.api.ts';
import { STATES_SHOWN } from '../say.ts';
import { WhyPanel } from '../WhyPanel.tsx';

const ASKING = 'ask';
const TICKED = 'ticked';

const isState = (text: string | null): text is RecallState => STATES_SHOWN.some((state) => state === text);

/** The people of a plan, by what they are to it, each with the reason in a line; why, or why not, stands beside. */
export function PlanPeoplePage() {
  const { planId = '' } = useParams();
  // Who is ticked stays ticked over a reload.
  return (
    <KeptTyping key={planId} as={`invite.${planId}`}>
      <PlanPeople planId={planId} />
    </KeptTyping>
  );
}

function PlanPeople({ planId }: { planId: string }) {
  const { t } = useTranslation();
  const { asked, set } = useAddress();
  const asks = asked.get('state');
  const state = isState(asks) ? asks : 'due';
  const overdueOnly = asked.get('overdue') === 'yes';
  const homeSiteId = asked.get('site');
  const plan = useRecords('recall-plan').find(({ id }) => id === planId);
  const { data: counts } = recallsApi.useRecallCountsQuery({});
  const counted = counts?.plans.find(({ id }) => id === planId);
  const of = { planId, state, overdueOnly: overdueOnly && state === 'due', homeSiteId };
  const query = recallsApi.useRecallPeopleQuery({ ...of, after: null });
  const why = asked.get('why');
  const mayInvite = useMayInvite();
  const [kept, keep] = useKeptState<readonly string[]>('ticked', []);
  const ticked = useMemo(() => new Set(kept), [kept]);
  const isInviting = asked.get('invite') === TICKED && ticked.size > 0;
  const tick = (ids: readonly string[], on: boolean) =>
    keep((before) => (on ? [...new Set([...before, ...ids])] : before.filter((id) => !ids.includes(id))));
  return (
    <div className="flex min-h-0 min-w-0 flex-1">
      <Page
        title={plan?.doc.name ?? t('recalls.title')}
        note={
          <Link className="underline" to="/outreach">
            {t('recalls.list.back')}
          </Link>
        }
        query={query}
        sideways
        toolbar={
          <Toolbar
            {...{ planId, state, overdueOnly, homeSiteId, set }}
            ticked={mayInvite && state === 'due' ? ticked.size : 0}
            count={(of) => (of === 'due' ? (counted?.counts.due ?? 0) : (counted?.counts[of] ?? 0))}
          />
        }
      >
        {(first) => (
          // Pages after the first go on from its end: where that is another one, they begin anew.
          <Pages
            key={JSON.stringify([of, first.next])}
            of={of}
            first={first}
            onWhy={(id) => set({ why: id }, true)}
            why={why}
            ticked={mayInvite && state === 'due' ? ticked : null}
            onTick={tick}
          />
        )}
      </Page>
      {isInviting && (
        <InvitePanel
          about={{ planId }}
          patientIds={[...ticked]}
          onClose={() => set({ invite: null }, true)}
          onSent={() => keep([])}
        />
      )}
      {why !== null && !isInviting && (
        <WhyPanel
          patientId={why === ASKING ? null : why}
          planId={planId}
          onPick={(id) => set({ why: id ?? ASKING })}
          onClose={() => set({ why: null }, true)}
        />
      )}
    </div>
  );
}

interface ToolbarProps {
  readonly planId: string;
  /** How many are ticked to be invited. */
  readonly ticked: number;
  readonly state: RecallState;
  readonly overdueOnly: boolean;
  readonly homeSiteId: string | null;
  readonly set: ReturnType<typeof useAddress>['set'];
  readonly count: (state: RecallState) => number;
}

function Toolbar({ planId, ticked, state, overdueOnly, homeSiteId, set, count }: ToolbarProps) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-line px-4 py-2">
      <fieldset aria-label={t('recalls.list.states')} className="flex flex-wrap gap-1">
        {STATES_SHOWN.filter((each) => each === 'due' || each === state || count(each) > 0).map((each) => (
          <Button
            key={each}
            aria-pressed={each === state}
            look={each === state ? 'primary' : 'quiet'}
            onClick={() => set({ state: each, overdue: null }, true)}
          >
            {t(`recalls.state.${each}`)} <span className="tabular-nums">{count(each)}</span>
          </Button>
        ))}
      </fieldset>
      {state === 'due' && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-accent"
            checked={overdueOnly}
            onChange={(event) => set({ overdue: event.target.checked ? 'yes' : null })}
          />
          {t('recalls.list.overdueOnly')}
        </label>
      )}
      <select
        aria-label={t('recalls.list.site')}
        className="rounded-md border border-line-strong bg-panel px-2 py-1.5"
        value={homeSiteId ?? ''}
        onChange={(event) => set({ site: event.target.value || null })}
      >
        <option value="">{t('recalls.list.anySite')}</option>
        {clinic?.sites.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
      {ticked > 0 && (
        <Button look="primary" onClick={() => set({ invite: TICKED, why: null }, true)}>
          {t('invite.openMany', { count: ticked })}
        </Button>
      )}
      <Link className="ml-auto underline" to={`/outreach/plans/${planId}/invited`}>
        {t('invite.funnel.open')}
      </Link>
      <Button onClick={() => set({ why: ASKING }, true)}>{t('recalls.list.askWhy')}</Button>
    </div>
  );
}

type Asked = Omit<Parameters<typeof recallsApi.useRecallPeopleQuery>[0] & object, 'after'>;
type Answer = NonNullable<ReturnType<typeof recallsApi.useRecallPeopleQuery>['data']>;

interface PagesProps {
  readonly of: Asked;
  readonly first: Answer;
  readonly why: string | null;
  readonly onWhy: (patientId: string) => void;
  readonly ticked: ReadonlySet<string> | null;
  readonly onTick: (patientIds: readonly string[], on: boolean) => void;
}

/** The first page as it is now, and what was asked for after it. */
function Pages({ of, first, ...table }: PagesProps) {
  const { t } = useTranslation();
  const [more, setMore] = useState<readonly Answer[]>([]);
  const sayRefused = useSayRefused();
  const [ask, asking] = recallsApi.useLazyRecallPeopleQuery();
  const { next } = more.at(-1) ?? first;
  const shown: ListedPerson[] = [...first.people, ...more.flatMap(({ people }) => people)];
  if (!shown.length) return <p className="text-muted">{t(`recalls.stateEmpty.${of.state}`)}</p>;
  return (
    <>
      <PeopleTable people={shown} today={first.today} {...table} />
      <p className="flex items-center gap-3 px-1 py-2 text-muted">
        {t(next ? 'recalls.list.moreShown' : 'recalls.list.shown', { count: shown.length })}
        {next && (
          <Button
            disabled={asking.isFetching}
            onClick={async () => {
              const { data, error } = await ask({ ...of, after: next });
              sayRefused(error);
              if (data) setMore((before) => [...before, data]);
            }}
          >
            {t('recalls.list.more')}
          </Button>
        )}
      </p>
    </>
  );
}
