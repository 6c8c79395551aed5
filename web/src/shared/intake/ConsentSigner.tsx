import type { ConsentDocument, Signing } from '@zaguan/contracts/intake';
import { type ConsentFault, consentFaults, SIGNERS, type Signer, type Strokes } from '@zaguan/core/intake';
import { ageOn } from '@zaguan/core/patients';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../ui/Button.tsx';
import { CONTROL, Field } from '../ui/Field.tsx';
import { SignatureField } from './SignatureField.tsx';

interface Props {
  readonly document: ConsentDocument;
  readonly language: 'en' | 'es';
  readonly birthDate: string;
  readonly today: string;
  readonly busy: boolean;
  readonly onSign: (signing: Signing) => void;
}

/** Read, agreed to, signed: by whom, and by name or by hand. Drawing is never the only way (WCAG 2.5.7). */
export function ConsentSigner({ document, language, birthDate, today, busy, onSign }: Props) {
  const { t } = useTranslation();
  const minor = ageOn(birthDate, today) < 18;
  const [agreed, setAgreed] = useState(false);
  const [signer, setSigner] = useState<Signer>(minor ? 'parent' : 'self');
  const [signerName, setSignerName] = useState('');
  const [kind, setKind] = useState<'typed' | 'drawn'>('typed');
  const [strokes, setStrokes] = useState<Strokes>([]);
  const [asked, setAsked] = useState(false);
  const act = {
    agreed,
    signer,
    signerName,
    signature: kind === 'typed' ? ({ kind } as const) : ({ kind, strokes } as const),
  };
  const faults = new Set(consentFaults(act, birthDate, today));
  const fault = (code: ConsentFault) => (asked && faults.has(code) ? t(`intake.consent.fault.${code}`) : undefined);
  const submit = () => {
    setAsked(true);
    if (faults.size) return;
    onSign({
      ...act,
      language,
      signature:
        kind === 'typed'
          ? { kind }
          : { kind, strokes: strokes.map((stroke) => stroke.map(([x, y]): [number, number] => [x, y])) },
    });
  };
  return (
    <form
      noValidate
      aria-label={document.title[language]}
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <div className="flex flex-col gap-2 rounded-md border border-line-strong bg-panel px-4 py-3 leading-relaxed">
        {document.body[language].split('\n').map((paragraph) => (
          <p key={paragraph}>{paragraph}</p>
        ))}
      </div>
      <div>
        <label className="flex min-h-11 items-center gap-3 font-semibold">
          <input
            type="checkbox"
            name="agreed"
            checked={agreed}
            onChange={(event) => setAgreed(event.target.checked)}
            className="size-6 accent-accent"
          />
          {t('intake.consent.agree')}
        </label>
        {fault('not-agreed') && (
          <p role="alert" className="font-semibold text-danger">
            {fault('not-agreed')}
          </p>
        )}
      </div>
      <Field label={t('intake.consent.who')} error={fault('minor-signs')}>
        {(controlProps) => (
          <select
            {...controlProps}
            name="signer"
            className={`${CONTROL} min-h-11`}
            value={signer}
            onChange={(event) => setSigner(SIGNERS.find((each) => each === event.target.value) ?? 'self')}
          >
            {SIGNERS.map((each) => (
              <option key={each} value={each}>
                {t(`intake.consent.signer.${each}`)}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field label={t('intake.consent.name')} error={fault('name-empty')}>
        {(controlProps) => (
          <input
            {...controlProps}
            name="signerName"
            autoComplete="name"
            maxLength={120}
            className={`${CONTROL} min-h-11`}
            value={signerName}
            onChange={(event) => setSignerName(event.target.value)}
          />
        )}
      </Field>
      <fieldset>
        <legend className="mb-1 font-semibold">{t('intake.consent.how')}</legend>
        {(['typed', 'drawn'] as const).map((each) => (
          <label key={each} className="flex min-h-11 items-center gap-3">
            <input
              type="radio"
              name="how"
              value={each}
              checked={kind === each}
              onChange={() => setKind(each)}
              className="size-5 accent-accent"
            />
            {t(`intake.consent.${each}`)}
          </label>
        ))}
        {kind === 'drawn' && <SignatureField onChange={setStrokes} />}
        {fault('signature-empty') && (
          <p role="alert" className="font-semibold text-danger">
            {fault('signature-empty')}
          </p>
        )}
      </fieldset>
      <Button look="accent" type="submit" className="min-h-12" disabled={busy}>
        {t('intake.consent.sign')}
      </Button>
    </form>
  );
}
