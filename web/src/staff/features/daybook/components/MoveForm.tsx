import type { Plate } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt, formatDate, shortDate, timeOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { SelectField, TickField } from '../../../../shared/ui/inputs.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { useForgetTyping, useKeptState } from '../../../forms/index.ts';
import { openingsApi } from '../../openings/index.ts';
import { daybookApi } from '../daybook.api.ts';
import { NoneMoved, type Reach, ReachChoice, useGroup } from './Together.tsx';

interface Props {
  readonly visit: Plate;
  readonly siteId: string;
  readonly timeZone: string;
  readonly onMoved: (when: string, undoId: string) => void;
  readonly onKeep: () => void;
}

/** What is looked for: a day, where, with whom; the times patients are offered too, or all. */
interface Wanted {
  readonly date: string;
  readonly siteId: string;
  /** Empty for whoever is free. */
  readonly providerId: string;
  readonly everyTime: boolean;
}

/** The free times of a day, by site and provider; one click moves the visit there, and it can be undone. */
export function MoveForm({ visit, siteId, timeZone, onMoved, onKeep }: Props) {
  const { t } = useTranslation();
  const usual: Wanted = { date: dateAt(visit.start, timeZone), siteId, providerId: '', everyTime: false };
  const [wanted, setWanted] = useKeptState<Wanted>('wanted', usual);
  const forget = useForgetTyping();
  const set = (change: Partial<Wanted>) => setWanted({ ...wanted, ...change });
  const { data: clinic } = accountsApi.useClinicQuery({});
  const { currentData, error, isFetching } = openingsApi.useFindQuery({
    siteId: wanted.siteId as never,
    visitTypeId: visit.visitTypeId,
    kind: visit.patientKind,
    channel: 'desk',
    from: wanted.date,
    days: 1,
    movingId: visit.id,
    ...(wanted.providerId && { providerId: wanted.providerId as never }),
  });
  const [move, moving] = daybookApi.useMoveVisitMutation();
  const [moveGroup, movingGroup] = daybookApi.useMoveGroupMutation();
  const [reach, setReach] = useKeptState<Reach>('reach', 'this');
  const group = useGroup(visit);
  const others = group.reached(reach).map(({ id, version }) => ({ id: id as never, version }));
  const refused = apiError(movingGroup.error) ?? apiError(moving.error) ?? apiError(error);
  const zone = clinic?.sites.find(({ id }) => id === wanted.siteId)?.timeZone ?? timeZone;
  const take = async (start: string, providerId: string | null) => {
    const to = { id: visit.id, version: visit.version, siteId: wanted.siteId as never, start, providerId };
    const result = await (others.length ? moveGroup({ ...to, others } as never) : move(to as never));
    if (!result.data) return;
    forget();
    onMoved(`${shortDate(dateAt(start, zone))}, ${timeOf(start, zone)}`, result.data.undo.id);
  };
  return (
    <section
      aria-label={t('visit.moveTitle')}
      className="flex flex-col gap-2 rounded-md border border-line-strong bg-panel p-3"
    >
      <h3 className="font-bold">{t('visit.moveTitle')}</h3>
      <ReachChoice group={group} reach={reach} onReach={setReach} />
      <Field label={t('visit.moveDay')} hint={formatDate(wanted.date, 'en', true)}>
        {(controlProps) => (
          <input
            {...controlProps}
            type="date"
            name="moveDay"
            className={CONTROL}
            value={wanted.date}
            onChange={(event) => event.target.value && set({ date: event.target.value })}
          />
        )}
      </Field>
      <SelectField
        label={t('visit.moveSite')}
        value={wanted.siteId}
        onChange={(event) => set({ siteId: event.target.value })}
        options={clinic?.sites ?? []}
      />
      <SelectField
        label={t('visit.moveWith')}
        value={wanted.providerId}
        none={t('visit.moveAnyone')}
        onChange={(event) => set({ providerId: event.target.value })}
        options={(clinic?.people ?? []).filter(({ kind }) => kind === 'provider')}
      />
      {refused && (
        <Notice tone="danger" live="assertive">
          {movingGroup.error && <NoneMoved visit={visit} others={group.reached(reach)} at={refused.facts?.visit} />}
          {t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}
        </Notice>
      )}
      {isFetching && <p role="status">{t('loading')}</p>}
      {!isFetching && currentData && !currentData.openings.length && (
        <NothingThatDay next={currentData.next} onGo={(date) => set({ date })} />
      )}
      {currentData && (
        <Times
          openings={currentData.openings.filter(
            ({ start, providerId }) => start !== visit.start || providerId !== visit.resourceId,
          )}
          everyTime={wanted.everyTime}
          onEveryTime={(everyTime) => set({ everyTime })}
          zone={zone}
          busy={moving.isLoading || movingGroup.isLoading || group.isLoading}
          onTake={take}
        />
      )}
      <div>
        <Button
          onClick={() => {
            forget();
            onKeep();
          }}
        >
          {t('dontMove')}
        </Button>
      </div>
    </section>
  );
}

/** The next day that has any is one press away. */
function NothingThatDay({ next, onGo }: { next: string | null; onGo: (date: string) => void }) {
  const { t } = useTranslation();
  return (
    <div className="flex flex-col items-start gap-1">
      <p>{t(next ? 'visit.moveNone' : 'visit.moveNoneAtAll')}</p>
      {next && <Button onClick={() => onGo(next)}>{t('visit.moveNext', { date: shortDate(next) })}</Button>}
    </div>
  );
}

interface Opening {
  readonly start: string;
  readonly providerId: string | null;
  readonly onGrid: boolean;
}

/** By provider. Times between the usual steps would leave odd gaps, so they are shown only if asked for. */
function Times({
  openings,
  everyTime,
  onEveryTime,
  zone,
  busy,
  onTake,
}: {
  openings: readonly Opening[];
  everyTime: boolean;
  onEveryTime: (wanted: boolean) => void;
  zone: string;
  busy: boolean;
  onTake: (start: string, providerId: string | null) => Promise<void>;
}) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const usual = openings.filter(({ onGrid }) => onGrid);
  const between = openings.length - usual.length;
  // Where there are only such, they are what there is.
  const shown = everyTime || !usual.length ? openings : usual;
  const nameOf = (id: string | null) => clinic?.people.find((person) => person.id === id)?.shortName ?? '';
  return (
    <>
      {[...new Set(shown.map(({ providerId }) => providerId))].map((providerId) => (
        <div key={providerId ?? ''}>
          <p className="text-muted">{nameOf(providerId)}</p>
          <div className="flex flex-wrap gap-1">
            {shown
              .filter((opening) => opening.providerId === providerId)
              .map(({ start }) => (
                <Button
                  key={start}
                  look="time"
                  className="px-2 py-1"
                  data-move-to={start}
                  disabled={busy}
                  onClick={() => void onTake(start, providerId)}
                >
                  {timeOf(start, zone)}
                </Button>
              ))}
          </div>
        </div>
      ))}
      {usual.length > 0 && between > 0 && (
        <TickField checked={everyTime} onChange={(event) => onEveryTime(event.target.checked)}>
          {t('visit.moveBetween', { count: between })}
        </TickField>
      )}
    </>
  );
}
