import type { TFunction } from 'i18next';
import { useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { formatPhone } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import type { Booked } from './Settle.tsx';
import { TakeHome } from './TakeHome.tsx';
import { useNames } from './useNames.ts';

interface Props {
  readonly booked: Booked;
  readonly onClose: () => void;
  readonly onNext: (patientId: string) => void;
}

/** What was booked and who is told of it; what may come next. Undo stands in the notice. */
export function BookedView({ booked: { visits }, onClose, onNext }: Props) {
  const { t } = useTranslation();
  const { whenOf, placeOf, typeOf } = useNames();
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => box.current?.querySelector<HTMLElement>('[data-close]')?.focus(), []);
  return (
    <div ref={box} data-testid="booked" className="flex flex-col gap-3">
      <h2 className="text-xl font-bold">{t('book.done', { count: visits.length })}</h2>
      <ul className="flex flex-col gap-2">
        {visits.map((visit) => (
          <li key={visit.id} className="rounded-md border border-line bg-panel px-3 py-2">
            <Link to={`/daybook/${visit.date}?visit=${visit.id}`} className="font-bold underline">
              {whenOf(visit)}
            </Link>
            <p className="text-muted">{[typeOf(visit.visitTypeId), placeOf(visit)].filter(Boolean).join(' · ')}</p>
            <p>{toldWords(t, visit.told)}</p>
          </li>
        ))}
      </ul>
      {visits.length > 0 && <TakeHome ids={visits.map(({ id }) => id)} maySend={false} />}
      <div className="flex flex-wrap gap-2">
        <Button look="primary" data-close onClick={onClose}>
          {t('book.close')}
        </Button>
        {visits[0] && <Button onClick={() => onNext(visits[0].patientId)}>{t('book.next')}</Button>}
      </div>
    </div>
  );
}

function toldWords(t: TFunction, told: Booked['visits'][number]['told']): string {
  if (!told) return t('book.toldNothing');
  return t('book.told', {
    contact: told.contact.startsWith('+') ? formatPhone(told.contact) : told.contact,
    language: t(`book.in.${told.language}`),
    count: told.reminders,
  });
}
