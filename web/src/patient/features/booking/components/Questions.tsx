import type { Question } from '@zaguan/contracts/clinic';
import { answerFaults } from '@zaguan/core/setup';
import { useTranslation } from 'react-i18next';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { useLanguage } from '../hooks/useLanguage.ts';
import { wish } from '../wish.slice.ts';

/** What the clinic asks before the visit type that is being booked. */
function useQuestions(): readonly Question[] {
  const language = useLanguage();
  const { kind, siteId, visitTypeId } = useAppSelector((state) => state.wish);
  const { data } = bookingApi.useVisitTypesQuery(
    { siteId: siteId ?? '', kind: kind ?? 'new', language },
    { skip: !siteId || !kind },
  );
  return data?.visitTypes.find((type) => type.id === visitTypeId)?.questions ?? [];
}

function useFaults(): Record<string, string> {
  const questions = useQuestions();
  const answers = useAppSelector((state) => state.wish.answers);
  return answerFaults(
    questions.map((question) => ({ ...question, choices: question.choices.map(({ value }) => value) })),
    answers,
  );
}

/** Whether something that is asked can't be sent as it is: the server judges by the same function. */
export function useMissingAnswers(): boolean {
  return Object.keys(useFaults()).length > 0;
}

/** The server's faults, by question. */
export function questionFaults(issues: readonly { path: string; code: string }[] = []): Record<string, string> {
  return Object.fromEntries(
    issues.flatMap(({ path, code }) => (path.startsWith('answers.') ? [[path.slice('answers.'.length), code]] : [])),
  );
}

export function Questions({
  faults,
  checked,
}: {
  visitTypeId: string;
  faults: Record<string, string>;
  checked: boolean;
}) {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const questions = useQuestions();
  const answers = useAppSelector((state) => state.wish.answers);
  const own = useFaults();
  return (
    <>
      {questions.map((question) => {
        const code = faults[question.id] ?? (checked ? own[question.id] : undefined);
        return (
          <Field
            key={question.id}
            label={question.label}
            required={question.required ? t('required') : t('optional')}
            error={code && t(`question.${code}`)}
          >
            {(given) => (
              <Answer
                given={given}
                question={question}
                value={answers[question.id]}
                onChange={(answer) => dispatch(wish.actions.answered({ id: question.id, answer }))}
              />
            )}
          </Field>
        );
      })}
    </>
  );
}

type Value = string | number | boolean;

function Answer({
  given,
  question,
  value,
  onChange,
}: {
  given: object;
  question: Question;
  value: Value | undefined;
  onChange: (value: Value) => void;
}) {
  const { t } = useTranslation();
  const control = `${CONTROL} min-h-11`;
  switch (question.kind) {
    case 'yes-no':
    case 'choice': {
      const choices =
        question.kind === 'choice'
          ? question.choices
          : [
              { value: 'yes', label: t('been.yes') },
              { value: 'no', label: t('been.no') },
            ];
      const chosen = typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value ?? '');
      return (
        <select
          {...given}
          className={control}
          value={chosen}
          onChange={(event) =>
            onChange(
              question.kind === 'choice' || !event.target.value ? event.target.value : event.target.value === 'yes',
            )
          }
        >
          <option value="">–</option>
          {choices.map((choice) => (
            <option key={choice.value} value={choice.value}>
              {choice.label}
            </option>
          ))}
        </select>
      );
    }
    case 'date':
      return (
        <input
          {...given}
          type="date"
          className={control}
          value={String(value ?? '')}
          onChange={(event) => onChange(event.target.value)}
        />
      );
    case 'number':
      return (
        <input
          {...given}
          inputMode="decimal"
          className={control}
          value={String(value ?? '')}
          onChange={(event) => {
            const text = event.target.value.trim();
            onChange(text !== '' && Number.isFinite(Number(text)) ? Number(text) : text);
          }}
        />
      );
    case 'text':
      return (
        <input
          {...given}
          className={control}
          maxLength={500}
          value={String(value ?? '')}
          onChange={(event) => onChange(event.target.value)}
        />
      );
  }
}
