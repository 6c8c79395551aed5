import { CARRIER_MODES } from '@zaguan/contracts/messages';
import { useId, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { phoneWords } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { CONTROL } from '../../../shared/ui/Field.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { Page } from '../../shell/Page.tsx';
import { useClinicTime } from '../accounts/index.ts';
import { postroomApi } from './postroom.api.ts';

const REFRESH_MS = 1000;
const JUMPS = [10, 60, 1440, 1440 * 7] as const;

/** The simulated carriers from the inside: every phone, answered here, and a clock that can be moved on. */
export function PostroomPage() {
  const { t } = useTranslation();
  const query = postroomApi.usePostroomQuery({}, { pollingInterval: REFRESH_MS });
  const now = query.currentData?.now;
  const { siteName, write } = useClinicTime();
  const note = (
    <>
      <span className="text-muted">{t('postroom.note')}</span>
      {now && <span className="ml-auto">{t('postroom.now', { time: write(now), site: siteName })}</span>}
    </>
  );
  return (
    <Page
      title={t('postroom.title')}
      note={note}
      toolbar={<Controls mode={query.currentData?.mode} waiting={query.currentData?.waiting ?? 0} />}
      query={query}
    >
      {({ phones }) => (
        <div className="grid grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-4">
          {phones.length === 0 && <Notice tone="ochre">{t('postroom.empty')}</Notice>}
          {phones.map((phone) => (
            <Phone key={phone.number} phone={phone} />
          ))}
        </div>
      )}
    </Page>
  );
}

type Mode = (typeof CARRIER_MODES)[number];

/** The clinic's clock and the carrier's temper. */
function Controls({ mode, waiting }: { mode: Mode | undefined; waiting: number }) {
  const { t } = useTranslation();
  const [move, moving] = postroomApi.useClockMutation();
  const [setCarrier] = postroomApi.useCarrierMutation();
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-line bg-lime-deep px-4 py-1.5">
      <span>{t('postroom.forward')}</span>
      {JUMPS.map((minutes) => (
        <Button key={minutes} disabled={moving.isLoading} onClick={() => void move({ minutes })}>
          {t(`postroom.jump.${minutes}`)}
        </Button>
      ))}
      <label className="ml-4 flex items-center gap-2">
        {t('postroom.carrier')}
        <select
          className="rounded-md border border-line-strong bg-white px-2 py-1.5"
          value={mode ?? 'works'}
          onChange={(event) => void setCarrier({ mode: event.target.value as Mode })}
        >
          {CARRIER_MODES.map((each) => (
            <option key={each} value={each}>
              {t(`postroom.mode.${each}`)}
            </option>
          ))}
        </select>
      </label>
      {waiting > 0 && <span className="font-bold text-ochre">{t('postroom.waiting', { count: waiting })}</span>}
    </div>
  );
}

interface PhoneProps {
  readonly phone: {
    number: string;
    messages: { id: string; direction: string; body: string; at: string; parts: number }[];
  };
}

function Phone({ phone }: PhoneProps) {
  const { t } = useTranslation();
  const id = useId();
  const { write } = useClinicTime();
  const [text, setText] = useState('');
  const [reply, { isLoading }] = postroomApi.useReplyMutation();
  const send = async (body: string) => {
    const result = await reply({ number: phone.number, body });
    if ('data' in result) setText('');
  };
  return (
    <article
      aria-label={phone.number}
      data-phone={phone.number}
      className="flex flex-col rounded-md border border-line-strong bg-white"
    >
      <h2 className="border-b border-line px-3 py-1.5 font-bold">{phoneWords(phone.number)}</h2>
      <ol className="flex max-h-80 flex-1 flex-col gap-2 overflow-y-auto p-3">
        {phone.messages.map((message) => (
          <li
            key={message.id}
            className={`max-w-[88%] rounded-md px-2.5 py-1.5 ${message.direction === 'to-patient' ? 'self-start bg-lime-deep' : 'self-end bg-door-wash'}`}
          >
            <p className="break-words">
              <Linked text={message.body} />
            </p>
            <p className="text-[0.78rem] text-muted">
              {write(message.at)}
              {message.direction === 'to-patient' && ` · ${t('postroom.parts', { count: message.parts })}`}
            </p>
          </li>
        ))}
      </ol>
      <form
        className="flex gap-2 border-t border-line p-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim()) void send(text.trim());
        }}
      >
        <label htmlFor={id} className="sr-only">
          {t('postroom.answerAs', { number: phone.number })}
        </label>
        <input
          id={id}
          className={`${CONTROL} flex-1 py-1.5`}
          value={text}
          maxLength={480}
          onChange={(event) => setText(event.target.value)}
          placeholder={t('postroom.answer')}
        />
        <Button type="submit" disabled={isLoading || !text.trim()}>
          {t('postroom.send')}
        </Button>
      </form>
    </article>
  );
}

/** Addresses in a message can be followed, as on a phone. */
function Linked({ text }: { text: string }) {
  return text.split(/(https?:\/\/\S+)/).map((part) =>
    /^https?:/.test(part) ? (
      <a key={part} className="break-all text-door underline" href={part} target="_blank" rel="noreferrer">
        {part.replace(/(\/v\/.{6}).*/, '$1…')}
      </a>
    ) : (
      part
    ),
  );
}
