import { MAX_MEMBERS } from '@zaguan/core/findTime';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CONTROL } from '../../../../shared/ui/Field.tsx';
import { SelectField } from '../../../../shared/ui/inputs.tsx';
import { MemberPatient } from './MemberPatient.tsx';
import type { Member, Typing } from './typed.ts';

interface Props extends Typing {
  readonly visitTypes: readonly { readonly id: string; readonly name: string }[];
}

/** Who comes, for what: one person or a household. */
export function MembersFields({ visitTypes, typed, set }: Props) {
  const { t } = useTranslation();
  const { members } = typed;
  return (
    <>
      {members.map((member, i) => (
        <MemberFields
          // biome-ignore lint/suspicious/noArrayIndexKey: people have no names here; they are the first, the second …
          key={i}
          number={i + 1}
          member={member}
          visitTypes={visitTypes}
          onChange={(to) => set({ members: members.with(i, { ...member, ...to }) })}
          onRemove={members.length > 1 ? () => set({ members: members.toSpliced(i, 1) }) : null}
        />
      ))}
      {members.length < MAX_MEMBERS && !typed.repeats && (
        <Button
          className="self-start"
          onClick={() => set({ members: [...members, { ...members[members.length - 1], patientId: null }] })}
        >
          {t('find.another')}
        </Button>
      )}
    </>
  );
}

function MemberFields({
  number,
  member,
  visitTypes,
  onChange,
  onRemove,
}: {
  number: number;
  member: Member;
  visitTypes: Props['visitTypes'];
  onChange: (to: Partial<Member>) => void;
  onRemove: (() => void) | null;
}) {
  const { t } = useTranslation();
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className={onRemove ? 'font-bold' : 'sr-only'}>{t('find.person', { number })}</legend>
      <SelectField
        label={t('whyNot.type')}
        value={member.visitTypeId}
        onChange={(event) => onChange({ visitTypeId: event.target.value })}
        options={visitTypes}
      />
      <div className="flex gap-2">
        <select
          aria-label={t('whyNot.kind')}
          className={CONTROL}
          value={member.kind}
          onChange={(event) => onChange({ kind: event.target.value as Member['kind'] })}
        >
          <option value="established">{t('visit.kind.established')}</option>
          <option value="new">{t('visit.kind.new')}</option>
        </select>
        {onRemove && <Button onClick={onRemove}>{t('find.without')}</Button>}
      </div>
      <MemberPatient patientId={member.patientId} onChange={(patientId) => onChange({ patientId })} />
    </fieldset>
  );
}
