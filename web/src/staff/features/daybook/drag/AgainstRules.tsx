import { moveVisit } from '@zaguan/contracts/booking';
import type { Code } from '@zaguan/core/openings';
import { Dialog } from 'radix-ui';
import { useTranslation } from 'react-i18next';
import { ContractForm, FormActions, TextField, useContractForm } from '../../../forms/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { daybookApi } from '../daybook.api.ts';
import type { Over, Picked } from './drag.slice.ts';
import { useDrop } from './useDrop.ts';

/** A drop that breaks rules which a reason sets aside. */
export interface Dropped {
  readonly picked: Picked;
  readonly to: Over;
  /** The rules it breaks, with what decided in words. */
  readonly broken: readonly { readonly code: Code; readonly lines: readonly string[] }[];
}

/** Asks, where a visit was dropped against rules, for the reason; without one it stays where it was. */
export function AgainstRules({ dropped, onClose }: { dropped: Dropped; onClose: () => void }) {
  const { t } = useTranslation();
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#00000055]" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/3 left-1/2 z-50 flex w-[420px] max-w-[92vw] -translate-x-1/2 -translate-y-1/3 flex-col gap-3 rounded-md border border-line-strong bg-surface p-4"
        >
          <Dialog.Title className="text-lg font-bold">{t('drag.against', { name: dropped.picked.name })}</Dialog.Title>
          <Reason dropped={dropped} onClose={onClose} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Reason({ dropped: { picked, to, broken }, onClose }: { dropped: Dropped; onClose: () => void }) {
  const { t } = useTranslation();
  const [move] = daybookApi.useMoveVisitMutation();
  const undoable = useUndoToast();
  const { whenMoved } = useDrop();
  const form = useContractForm(moveVisit, {
    values: { waive: { codes: broken.map(({ code }) => code), reason: '' } },
    fixed: {
      ...{ id: picked.visitId as never, version: picked.version, siteId: to.siteId as never },
      ...{ providerId: to.providerId as never, start: new Date(to.start * 60_000).toISOString() },
      ...(to.lengthMin !== null && { lengthMin: to.lengthMin }),
    },
    send: move,
    onDone: (answer) => {
      undoable(whenMoved(picked, to), answer.undo.id);
      onClose();
    },
  });
  return (
    <ContractForm
      of={form}
      className="flex flex-col gap-2"
      actions={<FormActions of={form} send={t('drag.anyway')} leave={t('dontMove')} onLeave={onClose} />}
    >
      <ul className="flex flex-col gap-1">
        {broken.map(({ code, lines }) => (
          <li key={code} data-code={code} className="border-l-4 border-l-warning pl-2">
            <b>{t(`whyNot.code.${code}`)}</b> {lines.join(' ')}
          </li>
        ))}
      </ul>
      <TextField name="waive.reason" label={t('drag.because')} maxLength={200} required />
    </ContractForm>
  );
}
