import type { OutputOf } from '@zaguan/contracts';
import type { whyNot } from '@zaguan/contracts/openings';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { factLines } from '../../../words.facts.en.ts';
import { whereSet } from '../whereSet.ts';

type Found = OutputOf<typeof whyNot>;
type Answer = Found['answers'][number];
/** What is asked about: where the values of its rules are set. */
type About = Parameters<typeof whereSet>[1];

/** Every rule that hides a start, with the values that decided; behind them, those that let it pass. */
export function WhyNotAnswers({ found, of, zone }: { found: Found; of: About; zone: string }) {
  const { t } = useTranslation();
  const failed = found.answers.filter((answer) => !answer.passed);
  const passed = found.answers.filter((answer) => answer.passed && answer.applies);
  return (
    <>
      {found.offered && <Notice tone="success">{t('whyNot.offered')}</Notice>}
      {failed.length > 0 && (
        <div aria-live="polite">
          <p className="mb-1.5 font-bold">{t('whyNot.hidden', { count: failed.length })}</p>
          <ul className="flex flex-col gap-2">
            {failed.map((answer) => (
              <Failed key={answer.code} answer={answer} names={found.names} of={of} zone={zone} />
            ))}
          </ul>
        </div>
      )}
      {passed.length > 0 && (
        <details>
          <summary className="cursor-pointer text-muted">{t('whyNot.passed', { count: passed.length })}</summary>
          <ul className="mt-1 list-disc pl-5 text-muted">
            {passed.map((answer) => (
              <li key={answer.code}>
                {t(`whyNot.code.${answer.code}`)} <SetAt to={whereSet(answer.code, of)} />
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

function Failed({ answer, names, of, zone }: { answer: Answer; names: Found['names']; of: About; zone: string }) {
  const { t } = useTranslation();
  return (
    <li
      data-code={answer.code}
      className="rounded-md border border-line border-l-4 border-l-warning bg-panel px-3 py-1.5"
    >
      <p className="font-bold">{t(`whyNot.code.${answer.code}`)}</p>
      {factLines(answer, names, zone).map((line) => (
        <p key={line}>{line}</p>
      ))}
      <span className="flex flex-wrap gap-x-4">
        <Link to={`/help/availability#${answer.code}`} className="inline-block leading-[24px] text-accent underline">
          {t('whyNot.meaning')}
        </Link>
        <SetAt to={whereSet(answer.code, of)} />
      </span>
    </li>
  );
}

/** The way to where a rule's value is set. */
function SetAt({ to }: { to: string | null }) {
  const { t } = useTranslation();
  if (!to) return null;
  return (
    <Link to={to} className="inline-block leading-[24px] text-accent underline">
      {t('whyNot.setAt')}
    </Link>
  );
}
