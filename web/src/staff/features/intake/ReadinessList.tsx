import { type Role, scopeOf } from '@zaguan/contracts';
import { type VisitReadiness, waive } from '@zaguan/contracts/intake';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { Button } from '../../../shared/ui/Button.tsx';
import { ContractForm, FormActions, TextField, useContractForm } from '../../forms/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { intakeApi } from './intake.api.ts';

type Item = VisitReadiness['items'][number];

interface Props {
  readonly readiness: VisitReadiness;
  readonly role: Role;
  readonly mayFill: boolean;
  /** Opens a form or consent to be done here. */
  readonly onFill: (documentId: string) => void;
}

/** What is done and what is missing, each with what can be done about it. */
export function ReadinessList({ readiness, role, mayFill, onFill }: Props) {
  const { t } = useTranslation();
  return (
    <ul className="flex flex-col">
      {readiness.items.map((item) => (
        <li
          key={`${item.code} ${item.documentId}`}
          data-item={item.code}
          data-item-state={item.state}
          className="flex flex-col gap-1 border-b border-line py-1.5"
        >
          <div className="flex items-baseline gap-2">
            <span className="flex-1">{item.name ?? t(`readiness.item.${item.code}`)}</span>
            <span
              className={
                item.state === 'missing' ? `font-bold ${item.needed ? 'text-danger' : 'text-warning'}` : 'text-accent'
              }
            >
              {t(`readiness.state.${item.state}`)}
            </span>
          </div>
          <Help item={item} />
          {item.state === 'missing' && (
            <Acts item={item} visitId={readiness.id} role={role} mayFill={mayFill} onFill={onFill} />
          )}
        </li>
      ))}
    </ul>
  );
}

function Help({ item }: { item: Item }) {
  const { t } = useTranslation();
  if (item.waiver) return <p className="text-muted">{t('readiness.waivedBy', item.waiver)}</p>;
  if (item.state !== 'missing') return null;
  if (item.code === 'person')
    return (
      <p className="text-muted">
        {t('readiness.person')}{' '}
        <Link className="underline" to="/identity-review">
          {t('identityReview.title')}
        </Link>
      </p>
    );
  return item.needed ? null : <p className="text-muted">{t('readiness.notNeeded')}</p>;
}

function Acts({
  item,
  visitId,
  role,
  mayFill,
  onFill,
}: {
  item: Item;
  visitId: string;
  role: Role;
  mayFill: boolean;
  onFill: (documentId: string) => void;
}) {
  const { t } = useTranslation();
  const [waiving, setWaiving] = useState(false);
  const mayWaive = item.waivable && item.needed && scopeOf(role, 'intake.waive') !== 'no';
  const { documentId } = item;
  if (waiving) return <WaiveForm item={item} visitId={visitId} onLeave={() => setWaiving(false)} />;
  return (
    <div className="flex gap-2 empty:hidden">
      {documentId && mayFill && (
        <Button data-fill={item.code} onClick={() => onFill(documentId)}>
          {t(item.code === 'form' ? 'readiness.fillNow' : 'readiness.signNow')}
        </Button>
      )}
      {mayWaive && (
        <Button look="plain" data-waive={item.code} onClick={() => setWaiving(true)}>
          {t('readiness.waive')}
        </Button>
      )}
    </div>
  );
}

function WaiveForm({ item, visitId, onLeave }: { item: Item; visitId: string; onLeave: () => void }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [send] = intakeApi.useWaiveMutation();
  const form = useContractForm(waive, {
    values: { reason: '' },
    fixed: { id: visitId as never, code: item.code, documentId: item.documentId },
    send,
    onDone: (answer) => undo(t('readiness.waived'), answer.undo.id),
    keepAs: `waive.${visitId}.${item.code}.${item.documentId ?? ''}`,
  });
  return (
    <ContractForm
      of={form}
      actions={
        <FormActions of={form} look="quiet" send={t('readiness.doWaive')} leave={t('dismiss')} onLeave={onLeave} />
      }
    >
      <TextField name="reason" label={t('readiness.waiveReason')} maxLength={300} />
    </ContractForm>
  );
}
