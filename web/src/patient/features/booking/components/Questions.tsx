import type { Question } from '@zaguan/contracts/clinic';
import { answerFaults } from '@zaguan/core/setup';
import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { AnswerControl } from '../../../../shared/ui/AnswerControl.tsx';
import { Field } from '../../../../shared/ui/Field.tsx';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { useVisitType } from '../hooks/useVisitType.ts';
import { choices } from '../choices.slice.ts';

/** What the clinic asks before the visit type that is being booked. */
function useQuestions(): readonly Question[] {
  return useVisitType()?.questions ?? [];
}

function useFaults(): Record<string, string> {
  const questions = useQuestions();
  const answers = useAppSelector((state) => state.choices.answers);
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

export function Questions({ faults, checked }: { faults: Record<string, string>; checked: boolean }) {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const questions = useQuestions();
  const answers = useAppSelector((state) => state.choices.answers);
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
            error={code && codeWords(t, 'question', code, {}, t('question.needed'))}
          >
            {(controlProps) => (
              <AnswerControl
                controlProps={controlProps}
                kind={question.kind}
                choices={question.choices}
                words={{ yes: t('been.yes'), no: t('been.no') }}
                value={answers[question.id]}
                tall
                onChange={(answer) => dispatch(choices.actions.answered({ id: question.id, answer }))}
              />
            )}
          </Field>
        );
      })}
    </>
  );
}
