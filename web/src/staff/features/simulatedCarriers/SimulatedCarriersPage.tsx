import type { OutputOf } from '@zaguan/contracts';
import { CARRIER_MODES, type simulatedCarriers } from '@zaguan/contracts/messages';
import { Mail, Smartphone } from 'lucide-react';
import { type ReactNode, useEffect, useId, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { formatPhone } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { CONTROL } from '../../../shared/ui/Field.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { Page } from '../../shell/Page.tsx';
import { useClinicTime } from '../accounts/index.ts';
import { simulatedCarriersApi } from './simulatedCarriers.api.ts';

const REFRESH_MS = 1000;
/** How far the clock can be moved on, in minutes. */
const JUMPS = { minutes: 10, hour: 60, day: 1440, week: 7 * 1440 } as const;
const JUMP_LIST = Object.entries(JUMPS) as [keyof typeof JUMPS, number][];

/** The simulated carriers from the inside: every phone and mailbox, answered here, and a clock that can be moved on. */
export function SimulatedCarriersPage() {
  const { t } = useTranslation();
  const query = simulatedCarriersApi.useSimulatedCarriersQuery({}, { pollingInterval: REFRESH_MS });
  const now = query.currentData?.now;
  const { siteName, write } = useClinicTime();
  const note = (
    <>
      <span className="text-muted">{t('simulatedCarriers.note')}</span>
      {now && <span className="ml-auto">{t('simulatedCarriers.now', { time: write(now), site: siteName })}</span>}
    </>
  );
  return (
    <Page
      title={t('simulatedCarriers.title')}
      note={note}
      toolbar={<Controls modes={query.currentData?.modes} waiting={query.currentData?.waiting ?? 0} />}
      query={query}
    >
      {({ phones, mailboxes }) => (
        <div className="grid grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-4">
          {phones.length + mailboxes.length === 0 && <Notice tone="warning">{t('simulatedCarriers.empty')}</Notice>}
          {mailboxes.map((mailbox) => (
            <Mailbox key={mailbox.address} mailbox={mailbox} />
          ))}
          {phones.map((phone) => (
            <Phone key={phone.number} phone={phone} />
          ))}
        </div>
      )}
    </Page>
  );
}

type Modes = OutputOf<typeof simulatedCarriers>['modes'];

/** The clinic's clock and the carriers' temper. */
function Controls({ modes, waiting }: { modes: Modes | undefined; waiting: number }) {
  const { t } = useTranslation();
  const [move, moving] = simulatedCarriersApi.useClockMutation();
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-line bg-surface-deep px-4 py-1.5">
      <span>{t('simulatedCarriers.forward')}</span>
      {JUMP_LIST.map(([name, minutes]) => (
        <Button key={name} disabled={moving.isLoading} onClick={() => void move({ minutes })}>
          {t(`simulatedCarriers.jump.${name}`)}
        </Button>
      ))}
      <CarrierMode channel="sms" mode={modes?.sms} />
      <CarrierMode channel="email" mode={modes?.email} />
      {waiting > 0 && (
        <span className="font-bold text-warning">{t('simulatedCarriers.waiting', { count: waiting })}</span>
      )}
    </div>
  );
}

function CarrierMode({ channel, mode }: { channel: 'sms' | 'email'; mode: string | undefined }) {
  const { t } = useTranslation();
  const [setCarrier] = simulatedCarriersApi.useCarrierMutation();
  return (
    <label className="ml-3 flex items-center gap-2">
      {t(`simulatedCarriers.carrier.${channel}`)}
      <select
        name={`carrier-${channel}`}
        className="rounded-md border border-line-strong bg-panel px-2 py-1.5"
        value={mode ?? 'works'}
        onChange={(event) => {
          const sms = CARRIER_MODES.sms.find((each) => each === event.target.value);
          const email = CARRIER_MODES.email.find((each) => each === event.target.value);
          if (channel === 'sms' && sms) void setCarrier({ channel, mode: sms });
          if (channel === 'email' && email) void setCarrier({ channel, mode: email });
        }}
      >
        {CARRIER_MODES[channel].map((each) => (
          <option key={each} value={each}>
            {t(`simulatedCarriers.mode.${each}`)}
          </option>
        ))}
      </select>
    </label>
  );
}

type Room = OutputOf<typeof simulatedCarriers>;

/** A simulated phone or mailbox: what came and what was answered, with a line to answer in. */
function Box({
  name,
  title,
  kind,
  children,
  hint,
  count,
  onSend,
}: {
  name: string;
  title: string;
  kind: 'phone' | 'mailbox';
  children: ReactNode;
  hint: string;
  /** How many messages there are; the newest is brought into sight. */
  count: number;
  onSend: (text: string) => Promise<boolean>;
}) {
  const { t } = useTranslation();
  const id = useId();
  const [text, setText] = useState('');
  const [sending, setSending] = useState(false);
  const list = useRef<HTMLOListElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new message moves the list, nothing else does
  useEffect(() => {
    list.current?.scrollTo({ top: list.current.scrollHeight });
  }, [count]);
  const send = async (body: string) => {
    setSending(true);
    if (await onSend(body)) setText('');
    setSending(false);
  };
  return (
    <article
      aria-label={name}
      {...{ [`data-${kind}`]: name }}
      className="flex flex-col rounded-md border border-line-strong bg-panel"
    >
      <h2 className="flex items-center gap-2 border-b border-line px-3 py-1.5 font-bold">
        {kind === 'mailbox' ? <Mail size={16} aria-hidden="true" /> : <Smartphone size={16} aria-hidden="true" />}
        {title}
      </h2>
      <ol ref={list} className="flex max-h-80 flex-1 flex-col gap-2 overflow-y-auto p-3">
        {children}
      </ol>
      <form
        className="flex gap-2 border-t border-line p-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim()) void send(text.trim());
        }}
      >
        <label htmlFor={id} className="sr-only">
          {t('simulatedCarriers.answerAs', { number: name })}
        </label>
        <input
          id={id}
          className={`${CONTROL} flex-1 py-1.5`}
          value={text}
          maxLength={480}
          onChange={(event) => setText(event.target.value)}
          placeholder={hint}
        />
        <Button type="submit" disabled={sending || !text.trim()}>
          {t('simulatedCarriers.send')}
        </Button>
      </form>
    </article>
  );
}

const bubble = (direction: string) =>
  `max-w-[92%] rounded-md px-2.5 py-1.5 ${direction === 'to-patient' ? 'self-start bg-surface-deep' : 'self-end bg-accent-subtle'}`;

function Phone({ phone }: { phone: Room['phones'][number] }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  const [reply] = simulatedCarriersApi.useReplyMutation();
  return (
    <Box
      name={phone.number}
      title={formatPhone(phone.number)}
      kind="phone"
      hint={t('simulatedCarriers.answer')}
      count={phone.messages.length}
      onSend={async (body) => 'data' in (await reply({ number: phone.number, body }))}
    >
      {phone.messages.map((message) => (
        <li key={message.id} className={bubble(message.direction)}>
          <p className="break-words">
            <Linked text={message.body} />
          </p>
          <p className="text-xs text-muted">
            {write(message.at)}
            {message.direction === 'to-patient' && ` · ${t('simulatedCarriers.parts', { count: message.parts })}`}
          </p>
        </li>
      ))}
    </Box>
  );
}

function Mailbox({ mailbox }: { mailbox: Room['mailboxes'][number] }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  const [send] = simulatedCarriersApi.useMailMutation();
  return (
    <Box
      name={mailbox.address}
      title={mailbox.address}
      kind="mailbox"
      hint={t('simulatedCarriers.answerMail')}
      count={mailbox.messages.length}
      onSend={async (body) => 'data' in (await send({ address: mailbox.address, body }))}
    >
      {mailbox.messages.map((message) => (
        <li key={message.id} className={bubble(message.direction)}>
          {message.subject && <p className="font-bold">{message.subject}</p>}
          <p className="break-words whitespace-pre-line">
            <Linked text={message.body.trim()} />
          </p>
          <p className="text-xs text-muted">
            {write(message.at)}
            {message.calendar && ` · ${t('simulatedCarriers.calendar')}`}
          </p>
        </li>
      ))}
    </Box>
  );
}

/** Addresses in a message can be followed, as on a phone. */
function Linked({ text }: { text: string }) {
  return text.split(/(https?:\/\/\S+)/).map((part) =>
    /^https?:/.test(part) ? (
      <a key={part} className="break-all text-accent underline" href={part} target="_blank" rel="noreferrer">
        {part.replace(/(\/v\/.{6}).*/, '$1…')}
      </a>
    ) : (
      part
    ),
  );
}
