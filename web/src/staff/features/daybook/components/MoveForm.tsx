import type { Plate } from '@zaguan/contracts/daybook';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt, shortDate, timeOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { openingsApi } from '../../openings/index.ts';
import { daybookApi } from '../daybook.api.ts';

interface Props {
  readonly visit: Plate;
  readonly siteId: string;
  readonly timeZone: string;
  readonly onMoved: (when: string, undoId: string) => void;
  readonly onKeep: () => void;
}

/** The free times of a day at the visit's site, by provider; one click moves it there, and it can be undone. */
export function MoveForm({ visit, siteId, timeZone, onMoved, onKeep }: Props) {
  const { t } = useTranslation();
  const [date, setDate] = useState(dateAt(visit.start, timeZone));
  const { data: clinic } = accountsApi.useClinicQuery({});
  const { currentData, error, isFetching } = openingsApi.useFindQuery({
    siteId,
    visitTypeId: visit.visitTypeId,
    kind: visit.patientKind,
    channel: 'desk',
    from: date,
    days: 1,
    movingId: visit.id,
  });
  const [move, moving] = daybookApi.useMoveVisitMutation();
  const refused = apiError(moving.error) ?? apiError(error);
  const openings = currentData?.openings ?? [];
  const providers = [...new Set(openings.map(({ providerId }) => providerId))];
  const nameOf = (id: string | null) => clinic?.people.find((person) => person.id === id)?.shortName ?? '';
  const take = async (start: string, providerId: string | null) => {
    const result = await move({ id: visit.id, version: visit.version, start, providerId });
    if (result.data) onMoved(`${shortDate(dateAt(start, timeZone))}, ${timeOf(start, timeZone)}`, result.data.undo.id);
  };
  return (
    <section
      aria-label={t('visit.moveTitle')}
      className="flex flex-col gap-2 rounded-md border border-line-strong bg-panel p-3"
    >
      <h3 className="font-bold">{t('visit.moveTitle')}</h3>
      <Field label={t('visit.moveDay')}>
        {(controlProps) => (
          <input
            {...controlProps}
            type="date"
            name="moveDay"
            className={CONTROL}
            value={date}
            onChange={(event) => event.target.value && setDate(event.target.value)}
          />
        )}
      </Field>
      {refused && (
        <Notice tone="danger" live="assertive">
          {t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}
        </Notice>
      )}
      {isFetching && <p role="status">{t('loading')}</p>}
      {!isFetching && currentData && openings.length === 0 && <p>{t('visit.moveNone')}</p>}
      {providers.map((providerId) => (
        <div key={providerId ?? ''}>
          <p className="text-muted">{nameOf(providerId)}</p>
          <div className="flex flex-wrap gap-1">
            {openings
              .filter((opening) => opening.providerId === providerId && opening.start !== visit.start)
              .map(({ start }) => (
                <Button
                  key={start}
                  look="time"
                  className="px-2 py-1"
                  data-move-to={start}
                  disabled={moving.isLoading}
                  onClick={() => void take(start, providerId)}
                >
                  {timeOf(start, timeZone)}
                </Button>
              ))}
          </div>
        </div>
      ))}
      {currentData?.more && <p className="text-muted">{t('visit.moveMore')}</p>}
      <div>
        <Button onClick={onKeep}>{t('dontMove')}</Button>
      </div>
    </section>
  );
}
