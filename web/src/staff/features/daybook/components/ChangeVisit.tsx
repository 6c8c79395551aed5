import { type Role, scopeOf } from '@zaguan/contracts';
import type { Plate } from '@zaguan/contracts/daybook';
import { mayCancel } from '@zaguan/core/visits';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { KeptTyping } from '../../../forms/index.ts';
import { useAddress } from '../../../shell/useAddress.ts';
import { BenchForm } from '../../booking/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { CancelForm } from './CancelForm.tsx';
import { LengthForm } from './LengthForm.tsx';
import { MoveForm } from './MoveForm.tsx';

interface Props {
  readonly visit: Plate;
  readonly site: { readonly id: string; readonly timeZone: string };
  readonly role: Role;
  /** After it was moved or canceled. */
  readonly onClose: () => void;
}

/** Moves a visit, makes it longer or shorter, or cancels it; the address says which of them is being done. */
export function ChangeVisit({ visit, site, role, onClose }: Props) {
  const { t } = useTranslation();
  const toast = useUndoToast();
  const { asked, set } = useAddress();
  const may = {
    cancel: scopeOf(role, 'appointment.cancel') !== 'no' && mayCancel(visit.status),
    bench: scopeOf(role, 'appointment.book') !== 'no' && mayCancel(visit.status) && visit.patientId !== null,
    move: scopeOf(role, 'appointment.move') !== 'no' && (visit.status === 'booked' || visit.status === 'pending'),
  };
  const doing = asked.get('do');
  const leave = () => set({ do: null });
  const done = (words: string, undoId: string) => {
    toast(words, undoId);
    onClose();
  };
  if (may.cancel && doing === 'cancel')
    return <CancelForm visit={visit} onDone={(undoId) => done(t('visit.cancelled'), undoId)} onKeep={leave} />;
  if (may.bench && doing === 'bench')
    return <BenchForm visit={visit} onDone={(undoId) => done(t('bench.placed'), undoId)} onKeep={leave} />;
  if (may.move && doing === 'length')
    return (
      <LengthForm
        visit={visit}
        siteId={site.id}
        onDone={(count, undoId) => {
          toast(t('visit.lengthSet', { name: visit.name, count }), undoId);
          leave();
        }}
        onKeep={leave}
      />
    );
  const moving = may.move && doing === 'move';
  return (
    <>
      <div className="flex flex-wrap gap-2">
        {may.move && !moving && <Button onClick={() => set({ do: 'move' })}>{t('visit.move')}</Button>}
        {may.move && <Button onClick={() => set({ do: 'length' })}>{t('visit.length')}</Button>}
        {may.bench && <Button onClick={() => set({ do: 'bench' })}>{t('bench.title')}</Button>}
        {may.cancel && (
          <Button look="danger" onClick={() => set({ do: 'cancel' })}>
            {t('visit.cancel')}
          </Button>
        )}
      </div>
      {moving && (
        <KeptTyping as={`move.${visit.id}`}>
          <MoveForm
            visit={visit}
            siteId={site.id}
            timeZone={site.timeZone}
            onMoved={(when, undoId) => done(t('visit.movedTo', { name: visit.name, when }), undoId)}
            onKeep={leave}
          />
        </KeptTyping>
      )}
    </>
  );
}
