import type { OutputOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { lengthOf, type Part } from '@zaguan/core/visits';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../shared/ui/Button.tsx';
import { SelectField, TextField } from '../../../shared/ui/inputs.tsx';
import type { Flow, TypeAtDesk } from './flow.ts';
import { OwnParts } from './OwnParts.tsx';
import { asButton, isSaid, toggled } from '../../../shared/reasons.ts';
import type { SetFlow } from './useFlow.ts';

interface Props {
  readonly clinic: OutputOf<typeof staffClinic> | undefined;
  readonly type: TypeAtDesk | undefined;
  readonly flow: Flow;
  readonly set: SetFlow;
  /** Who pays, as was said last. */
  readonly payerId: string | null;
  /** Leads the keyboard on. */
  readonly focusOn: (selector: string) => void;
}

/** What somebody comes for: the visit type, how long and where this time, the reason, and who pays. */
export function What({ clinic, type, flow, set, payerId, focusOn }: Props) {
  const { t } = useTranslation();
  const [isOpen, setOpen] = useState(flow.parts !== null);
  const parts = flow.parts ?? (type?.parts as readonly Part[] | undefined);
  return (
    <>
      <div className="flex items-end gap-2">
        <div className="min-w-0 flex-1">
          <SelectField
            label={t('book.what')}
            name="visitType"
            value={flow.visitTypeId}
            none={t('book.chooseType')}
            options={clinic?.visitTypes ?? []}
            onChange={(event) => set({ visitTypeId: event.target.value })}
            onKeyDown={(event) => event.key === 'Enter' && focusOn('input[name="reason"]')}
          />
        </div>
        {parts && (
          <Button aria-expanded={isOpen} data-parts onClick={() => setOpen(!isOpen)}>
            {t(flow.parts ? 'book.ownLength' : 'book.length', { count: lengthOf({ parts }) })}
          </Button>
        )}
      </div>
      {isOpen && type && parts && <OwnParts type={type} parts={parts} isOwn={flow.parts !== null} set={set} />}
      <TextField
        label={t('book.reason')}
        name="reason"
        maxLength={500}
        value={flow.reason}
        onChange={(event) => set({ reason: event.target.value })}
        onKeyDown={(event) =>
          event.key === 'Enter' && focusOn(flow.time || flow.group ? '[data-book]' : '[data-proposal="1"]')
        }
      />
      {type && <Reasons reasons={type.reasons} reason={flow.reason} onReason={(reason) => set({ reason })} />}
      {clinic && clinic.payers.length > 0 && flow.patientId && (
        <label className="flex items-center gap-2">
          <span className="font-semibold">{t('book.payer')}</span>
          <select
            name="payer"
            className="min-w-0 flex-1 rounded-md border border-line-strong bg-panel px-2 py-1"
            value={flow.payerId || payerId || SELF}
            onChange={(event) => set({ payerId: event.target.value, hasReferral: false, hasAuthorization: false })}
          >
            <option value={SELF}>{t('book.selfPay')}</option>
            {clinic.payers.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
    </>
  );
}

/** The patient pays. */
export const SELF = 'self';

/** Usual reasons and bundles of them, a press each; several stand one after the other. */
function Reasons({
  reasons,
  reason,
  onReason,
}: {
  reasons: TypeAtDesk['reasons'];
  reason: string;
  onReason: (reason: string) => void;
}) {
  const { t } = useTranslation();
  if (!reasons.length) return null;
  return (
    <ul aria-label={t('book.reasons')} className="flex flex-wrap gap-1">
      {reasons.map(({ id, name }) => (
        <li key={id}>
          <button
            type="button"
            className={`min-h-7 rounded-full border px-2.5 py-0.5 text-sm ${isSaid(reason, name) ? 'border-accent bg-accent-subtle' : 'border-line-strong bg-panel hover:bg-accent-subtle'}`}
            aria-pressed={isSaid(reason, name)}
            onClick={() => onReason(toggled(reason, name))}
          >
            {asButton(name)}
          </button>
        </li>
      ))}
    </ul>
  );
}
