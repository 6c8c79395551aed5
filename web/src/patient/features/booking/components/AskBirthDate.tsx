import { readBirthDate } from '@zaguan/core/patients';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { useLanguage } from '../hooks/useLanguage.ts';
import { BirthDateField } from './BirthDateField.tsx';

interface Props {
  /** Why it is asked. */
  readonly text: string;
  readonly action: string;
  readonly busy: boolean;
  readonly onShow: (birthDate: string) => void;
}

/** Only who knows the date of birth sees more than clinic and date. */
export function AskBirthDate({ text, action, busy, onShow }: Props) {
  const { t } = useTranslation();
  const language = useLanguage();
  const [typed, setTyped] = useState('');
  const [tried, setTried] = useState(false);
  const today = new Date().toISOString().slice(0, 10);
  const read = readBirthDate(typed, language === 'es' ? 'day-first' : 'month-first', today);
  return (
    <form
      noValidate
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        setTried(true);
        if (read.ok) onShow(read.date);
      }}
    >
      <p>{text}</p>
      <BirthDateField
        value={typed}
        today={today}
        error={tried && !read.ok ? t(`fault.birth-${read.problem}`) : undefined}
        onChange={setTyped}
        onBlur={() => undefined}
      />
      <Button look="accent" type="submit" className="min-h-12" disabled={busy}>
        {action}
      </Button>
    </form>
  );
}
