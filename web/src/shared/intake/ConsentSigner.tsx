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
  const [kind, setKind] = useState<Way>('typed');
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
      <Agreement agreed={agreed} fault={fault('not-agreed')} onChange={setAgreed} />
      <WhoSigns signer={signer} fault={fault('minor-signs')} onChange={setSigner} />
      <SignerName name={signerName} fault={fault('name-empty')} onChange={setSignerName} />
      <HowSigned kind={kind} fault={fault('signature-empty')} onChange={setKind} onDraw={setStrokes} />
      <Button look="accent" type="submit" className="min-h-12" disabled={busy}>
        {t('intake.consent.sign')}
      </Button>
    </form>
  );
}

interface Part<Value> {
  readonly fault: string | undefined;
  readonly onChange: (value: Value) => void;
}

function Fault({ words }: { words: string | undefined }) {
  if (!words) return null;
  return (
    <p role="alert" className="font-semibold text-danger">
      {words}
    </p>
  );
}

function Agreement({ agreed, fault, onChange }: Part<boolean> & { agreed: boolean }) {
  const { t } = useTranslation();
  return (
    <div>
      <label className="flex min-h-11 items-center gap-3 font-semibold">
        <input
          type="checkbox"
          name="agreed"
          checked={agreed}
          onChange={(event) => onChange(event.target.checked)}
          className="size-6 accent-accent"
        />
        {t('intake.consent.agree')}
      </label>
      <Fault words={fault} />
    </div>
  );
}

function WhoSigns({ signer, fault, onChange }: Part<Signer> & { signer: Signer }) {
  const { t } = useTranslation();
  return (
    <Field label={t('intake.consent.who')} error={fault}>
      {(controlProps) => (
        <select
          {...controlProps}
          name="signer"
          className={`${CONTROL} min-h-11`}
          value={signer}
          onChange={(event) => onChange(SIGNERS.find((each) => each === event.target.value) ?? 'self')}
        >
          {SIGNERS.map((each) => (
            <option key={each} value={each}>
              {t(`intake.consent.signer.${each}`)}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}

function SignerName({ name, fault, onChange }: Part<string> & { name: string }) {
  const { t } = useTranslation();
  return (
    <Field label={t('intake.consent.name')} error={fault}>
      {(controlProps) => (
        <input
          {...controlProps}
          name="signerName"
          autoComplete="name"
          maxLength={120}
          className={`${CONTROL} min-h-11`}
          value={name}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Field>
  );
}

const WAYS = ['typed', 'drawn'] as const;
type Way = (typeof WAYS)[number];

function HowSigned({ kind, fault, onChange, onDraw }: Part<Way> & { kind: Way; onDraw: (strokes: Strokes) => void }) {
  const { t } = useTranslation();
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">{t('intake.consent.how')}</legend>
      {WAYS.map((each) => (
        <label key={each} className="flex min-h-11 items-center gap-3">
          <input
            type="radio"
            name="how"
            value={each}
            checked={kind === each}
            onChange={() => onChange(each)}
            className="size-5 accent-accent"
          />
          {t(`intake.consent.${each}`)}
        </label>
      ))}
      {kind === 'drawn' && <SignatureField onChange={onDraw} />}
      <Fault words={fault} />
    </fieldset>
  );
}
