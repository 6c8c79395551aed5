import type { RegisterDoc } from '@zaguan/contracts/recalls';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { formatDate } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { QueryFrame } from '../../shell/QueryFrame.tsx';
import { useSayRefused } from '../../shell/useSayRefused.ts';
import { PatientPicker } from '../finder/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { recallsApi } from './recalls.api.ts';

interface Props {
  readonly id: string;
  readonly doc: RegisterDoc;
  readonly mayEdit: boolean;
}

/** Who is, and who was, on a register, with how and by whom; one kept by hand is changed here. */
export function RegisterPeople({ id, doc, mayEdit }: Props) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const sayRefused = useSayRefused();
  const query = recallsApi.useRegisterPeopleQuery({ registerId: id });
  const [put] = recallsApi.usePutOnRegisterMutation();
  const [end] = recallsApi.useTakeOffRegisterMutation();
  const [picking, setPicking] = useState(0);
  const isOurs = mayEdit && doc.rule === null;
  const data = query.currentData;
  return (
    <section aria-label={t('recalls.register.people', { name: doc.name })} className="flex flex-col gap-2">
      <h2 className="text-lg font-bold">{t('recalls.register.people', { name: doc.name })}</h2>
      {doc.note && <p className="text-muted">{doc.note}</p>}
      {isOurs && (
        <PatientPicker
          key={picking}
          label={t('recalls.register.put')}
          onPick={async (patient) => {
            if (!patient) return;
            const { data: done, error } = await put({ registerId: id, patientId: patient.id });
            sayRefused(error);
            if (done) undo(t('recalls.register.putDone'), done.undo.id);
            setPicking((before) => before + 1);
          }}
        />
      )}
      {!data && <QueryFrame query={query} bars={4} />}
      {data && <p>{t('recalls.register.now', { count: data.now })}</p>}
      {data?.people.length === 0 && <p className="text-muted">{t('recalls.register.empty')}</p>}
      <ul>
        {data?.people.map(({ memberId, patientId, name, from, until, how, addedBy, endedBy }) => (
          <li
            key={memberId}
            data-member={memberId}
            className={`flex items-center gap-3 border-b border-line py-1 ${until === null ? '' : 'text-muted'}`}
          >
            <span className="min-w-0 flex-1">
              <Link className="font-bold underline" to={`/patients/${patientId}`}>
                {name}
              </Link>{' '}
              {until === null
                ? t('recalls.register.since', { from: formatDate(from, 'en', true) })
                : t('recalls.register.between', {
                    from: formatDate(from, 'en', true),
                    until: formatDate(until, 'en', true),
                  })}
              {' · '}
              {[
                addedBy ? t('recalls.register.by', { by: addedBy }) : t(`recalls.register.how.${how}`),
                endedBy && t('recalls.register.endedBy', { by: endedBy }),
              ]
                .filter(Boolean)
                .join(' · ')}
            </span>
            {isOurs && until === null && (
              <Button
                aria-label={`${t('recalls.register.end')}: ${name}`}
                onClick={async () => {
                  const { data: done, error } = await end({ id: memberId });
                  sayRefused(error);
                  if (done) undo(t('recalls.register.ended'), done.undo.id);
                }}
              >
                {t('recalls.register.end')}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {data?.more && <p className="text-muted">{t('recalls.register.more')}</p>}
    </section>
  );
}
