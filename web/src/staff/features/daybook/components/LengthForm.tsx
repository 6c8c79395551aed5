import { moveVisit } from '@zaguan/contracts/booking';
import type { Plate } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { ContractForm, FormActions, NumberField, useContractForm } from '../../../forms/index.ts';
import { daybookApi } from '../daybook.api.ts';

interface Props {
  readonly visit: Plate;
  readonly siteId: string;
  readonly onDone: (minutes: number, undoId: string) => void;
  readonly onKeep: () => void;
}

/** Makes one visit longer or shorter where it stands; its start, and what else its patient was told, stays. */
export function LengthForm({ visit, siteId, onDone, onKeep }: Props) {
  const { t } = useTranslation();
  const [move] = daybookApi.useMoveVisitMutation();
  const form = useContractForm(moveVisit, {
    values: { lengthMin: (Date.parse(visit.end) - Date.parse(visit.start)) / 60_000 },
    fixed: {
      ...{ id: visit.id as never, version: visit.version, siteId: siteId as never },
      ...{ start: visit.start, providerId: visit.providerId as never },
    },
    send: move,
    onDone: (answer) => onDone(form.form.getValues('lengthMin') ?? 0, answer.undo.id),
    keepAs: `length.${visit.id}`,
  });
  return (
    <ContractForm
      of={form}
      label={t('visit.length')}
      className="flex flex-col gap-2 rounded-md border border-line-strong bg-panel p-3"
      codeWords={(codes) => codes.map((code) => `${t(`whyNot.code.${code}` as 'whyNot.code.busy')}.`).join(' ')}
      actions={
        <FormActions of={form} send={t('visit.setLength')} leave={t('visit.keepLength')} onLeave={onKeep} forgets />
      }
    >
      <NumberField name="lengthMin" label={t('visit.minutes')} hint={t('visit.lengthHint')} step={5} />
    </ContractForm>
  );
}
