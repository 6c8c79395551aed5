import type { OutputOf } from '@zaguan/contracts';
import type { contextOfPatient } from '@zaguan/contracts/desk';
import { MAX_MEMBERS } from '@zaguan/core/findTime';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Field } from '../../../shared/ui/Field.tsx';
import { TickField, WholeNumberInput } from '../../../shared/ui/inputs.tsx';
import { type Flow, type Repeat, USUAL_REPEAT } from './flow.ts';
import { SoonerFields, SoonerTick } from './SoonerFields.tsx';
import type { SetFlow } from './useFlow.ts';

interface Props {
  readonly household: OutputOf<typeof contextOfPatient>['context']['household'];
  readonly visitTypes: readonly { readonly id: string; readonly name: string }[];
  readonly flow: Flow;
  readonly set: SetFlow;
}

/** What makes one visit several, or sooner: others of the household, a series, a wish to come earlier. */
export function More(props: Props) {
  const { t } = useTranslation();
  const { household, flow, set } = props;
  const [isOthers, setOthers] = useState(flow.others.length > 0);
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {household.length > 0 && !flow.repeat && (
          <TickField
            name="others"
            checked={isOthers}
            onChange={(event) => {
              setOthers(event.target.checked);
              if (!event.target.checked) set({ others: [] });
            }}
          >
            {t('book.othersToo')}
          </TickField>
        )}
        {flow.others.length === 0 && (
          <TickField
            name="repeat"
            checked={flow.repeat !== null}
            onChange={(event) => {
              setOthers(false);
              set({ repeat: event.target.checked ? USUAL_REPEAT : null });
            }}
          >
            {t('book.series')}
          </TickField>
        )}
        <SoonerTick flow={flow} set={set} />
      </div>
      {isOthers && household.length > 0 && <HouseholdFields {...props} />}
      {flow.repeat && <RepeatFields repeat={flow.repeat} set={set} />}
      {flow.sooner && <SoonerFields wish={flow.sooner} set={set} />}
    </div>
  );
}

const SMALL = 'w-[130px] shrink-0 rounded-md border border-line-strong bg-panel px-2 py-1';

/** Who of the household comes too, and for what. */
function HouseholdFields({ household, visitTypes, flow, set }: Props) {
  const { t } = useTranslation();
  const { others } = flow;
  return (
    <fieldset className="flex flex-col gap-1.5 rounded-md border border-line bg-surface px-3 py-2" data-household>
      <legend className="px-1 font-semibold">{t('book.othersToo')}</legend>
      {household.map(({ id, name, age }) => {
        const at = others.findIndex(({ patientId }) => patientId === id);
        return (
          <div key={id} className="flex items-center gap-2">
            <TickField
              className="min-w-0 flex-1"
              data-member={id}
              checked={at >= 0}
              disabled={at < 0 && others.length + 1 >= MAX_MEMBERS}
              onChange={() =>
                set({
                  others: at >= 0 ? others.filter((_, i) => i !== at) : [...others, { patientId: id, visitTypeId: '' }],
                })
              }
            >
              {name} ({age})
            </TickField>
            {at >= 0 && (
              <select
                aria-label={t('book.whatFor', { name })}
                className={SMALL}
                value={others[at].visitTypeId}
                onChange={(event) =>
                  set({ others: others.with(at, { ...others[at], visitTypeId: event.target.value }) })
                }
              >
                <option value="">{t('book.sameType')}</option>
                {visitTypes.map((type) => (
                  <option key={type.id} value={type.id}>
                    {type.name}
                  </option>
                ))}
              </select>
            )}
          </div>
        );
      })}
      {others.length + 1 >= MAX_MEMBERS && (
        <p className="text-muted">{t('book.mostMembers', { count: MAX_MEMBERS })}</p>
      )}
      <div className="flex gap-4">
        {(['back-to-back', 'side-by-side'] as const).map((how) => (
          <TickField key={how} type="radio" name="how" checked={flow.how === how} onChange={() => set({ how })}>
            {t(`find.hows.${how}`)}
          </TickField>
        ))}
      </div>
    </fieldset>
  );
}

/** Every how many weeks, how often, how exactly. */
function RepeatFields({ repeat, set }: { repeat: Repeat; set: SetFlow }) {
  const { t } = useTranslation();
  const bounds = { everyWeeks: [1, 26], count: [2, 12], toleranceDays: [0, 7] } as const;
  return (
    <fieldset className="flex flex-col gap-2 rounded-md border border-line bg-surface px-3 py-2" data-repeat>
      <legend className="px-1 font-semibold">{t('book.series')}</legend>
      <div className="grid grid-cols-3 gap-2">
        {(['everyWeeks', 'count', 'toleranceDays'] as const).map((field) => {
          const [min, max] = bounds[field];
          return (
            <Field key={field} label={t(`find.${field}`)}>
              {(controlProps) => (
                <WholeNumberInput
                  {...controlProps}
                  name={field}
                  {...{ min, max }}
                  value={repeat[field]}
                  onValue={(value) => set({ repeat: { ...repeat, [field]: value } })}
                />
              )}
            </Field>
          );
        })}
      </div>
      <TickField
        name="sameProvider"
        checked={repeat.sameProvider}
        onChange={(event) => set({ repeat: { ...repeat, sameProvider: event.target.checked } })}
      >
        {t('find.sameProvider')}
      </TickField>
    </fieldset>
  );
}
