import type { OutputOf } from '@zaguan/contracts';
import { CARRIER_MODES, simulatedMail, simulatedReply, type simulatedCarriers } from '@zaguan/contracts/messages';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../shared/api/contractApi.ts';
import { formatPhone } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { useContractForm } from '../../forms/index.ts';
import { Page } from '../../shell/Page.tsx';
import { useClinicTime } from '../accounts/index.ts';
import { AnsweringBox } from './AnsweringBox.tsx';
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
  const [setCarrier, setting] = simulatedCarriersApi.useCarrierMutation();
  const refused = apiError(moving.error) ?? apiError(setting.error);
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-line bg-surface-deep px-4 py-1.5">
      <span>{t('simulatedCarriers.forward')}</span>
      {JUMP_LIST.map(([name, minutes]) => (
        <Button key={name} disabled={moving.isLoading} onClick={() => void move({ minutes })}>
          {t(`simulatedCarriers.jump.${name}`)}
        </Button>
      ))}
      <CarrierMode channel="sms" mode={modes?.sms} onSet={(mode) => void setCarrier({ channel: 'sms', mode })} />
      <CarrierMode channel="email" mode={modes?.email} onSet={(mode) => void setCarrier({ channel: 'email', mode })} />
      {waiting > 0 && (
        <span className="font-bold text-warning">{t('simulatedCarriers.waiting', { count: waiting })}</span>
      )}
      {refused && (
        <Notice tone="danger" live="assertive">
          {t(`error.${refused.tag}`, { requestId: refused.requestId })}
        </Notice>
      )}
    </div>
  );
}

function CarrierMode<Channel extends 'sms' | 'email'>({
  channel,
  mode,
  onSet,
}: {
  channel: Channel;
  mode: string | undefined;
  onSet: (mode: (typeof CARRIER_MODES)[Channel][number]) => void;
}) {
  const { t } = useTranslation();
  const modes: readonly (typeof CARRIER_MODES)[Channel][number][] = CARRIER_MODES[channel];
  return (
    <label className="ml-3 flex items-center gap-2">
      {t(`simulatedCarriers.carrier.${channel}`)}
      <select
        name={`carrier-${channel}`}
        className="rounded-md border border-line-strong bg-panel px-2 py-1.5"
        value={mode ?? 'works'}
        onChange={(event) => {
          const wanted = modes.find((each) => each === event.target.value);
          if (wanted) onSet(wanted);
        }}
      >
        {modes.map((each) => (
          <option key={each} value={each}>
            {t(`simulatedCarriers.mode.${each}`)}
          </option>
        ))}
      </select>
    </label>
  );
}

type Room = OutputOf<typeof simulatedCarriers>;
const NOTHING_TYPED = { body: '' };

const bubble = (direction: string) =>
  `max-w-[92%] rounded-md px-2.5 py-1.5 ${direction === 'to-patient' ? 'self-start bg-surface-deep' : 'self-end bg-accent-subtle'}`;

function Phone({ phone }: { phone: Room['phones'][number] }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  const [reply] = simulatedCarriersApi.useReplyMutation();
  const form = useContractForm(simulatedReply, {
    values: NOTHING_TYPED,
    fixed: { number: phone.number },
    send: reply,
    onDone: () => form.giveUp(),
    keepAs: `answer ${phone.number}`,
  });
  return (
    <AnsweringBox
      name={phone.number}
      title={formatPhone(phone.number)}
      kind="phone"
      hint={t('simulatedCarriers.answer')}
      count={phone.messages.length}
      form={form}
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
    </AnsweringBox>
  );
}

function Mailbox({ mailbox }: { mailbox: Room['mailboxes'][number] }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  const [mail] = simulatedCarriersApi.useMailMutation();
  const form = useContractForm(simulatedMail, {
    values: NOTHING_TYPED,
    fixed: { address: mailbox.address },
    send: mail,
    onDone: () => form.giveUp(),
    keepAs: `answer ${mailbox.address}`,
  });
  return (
    <AnsweringBox
      name={mailbox.address}
      title={mailbox.address}
      kind="mailbox"
      hint={t('simulatedCarriers.answerMail')}
      count={mailbox.messages.length}
      form={form}
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
    </AnsweringBox>
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
