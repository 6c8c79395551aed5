import { INVITED_AT_ONCE, type PreviewedInvitation } from '@zaguan/contracts/invitations';
import { booksWhatIsAsked } from '@zaguan/core/invitations';
import { comingTypesOf } from '@zaguan/core/recalls';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { formatDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { QueryFrame } from '../../shell/QueryFrame.tsx';
import { SidePanel } from '../../shell/SidePanel.tsx';
import { useSayRefused } from '../../shell/useSayRefused.ts';
import { useRecords } from '../setup/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { Finds } from './editor/Finds.tsx';
import { invitationsApi } from './invitations.api.ts';

export interface InviteAbout {
  readonly planId: string | null;
  readonly requestId?: string | null;
  readonly moveId?: string | null;
  /** The type that the request or the visit to move is of. */
  readonly typeId?: string | null;
}

interface Props {
  readonly about: InviteAbout;
  readonly patientIds: readonly string[];
  readonly onClose: () => void;
  readonly onSent?: () => void;
}

/** Sends an invitation to one patient or to many: the template, what each would read and when, and who gets none. */
export function InvitePanel({ about, patientIds, onClose, onSent }: Props) {
  const { t } = useTranslation();
  const plan = useRecords('recall-plan').find(({ id }) => id === about.planId)?.doc;
  const asked = plan ? comingTypesOf(plan) : about.typeId ? [about.typeId] : null;
  const templates = useRecords('invitation-template').filter(
    ({ active, doc }) => active && booksWhatIsAsked(doc.typeIds, asked),
  );
  const [picked, setPicked] = useState<string | null>(null);
  const template = templates.find(({ id }) => id === picked) ?? templates[0];
  const templateId = template?.id ?? '';
  const { typeId: _, ...subject } = about;
  const whole = { templateId, requestId: null, moveId: null, ...subject };
  const query = invitationsApi.usePreviewInvitationsQuery(
    { ...whole, patientIds: [...patientIds] },
    { skip: templateId === '' },
  );
  const shown = query.currentData;
  return (
    <SidePanel label={t('invite.title')} about={patientIds.join()} className="w-[460px]" onClose={onClose}>
      <h2 className="text-xl font-bold">{t('invite.title')}</h2>
      {templates.length === 0 ? (
        <p className="text-muted">
          {t(asked ? 'invite.noneFits' : 'invite.noTemplates')}{' '}
          <Link className="underline" to="/outreach/templates?template=new">
            {t('invite.newTemplate')}
          </Link>
        </p>
      ) : (
        <label className="mt-2 flex flex-col gap-1 font-semibold">
          {t('invite.template')}
          <select
            className="rounded-md border border-line-strong bg-panel px-2 py-1.5 font-normal"
            value={templateId}
            onChange={(event) => setPicked(event.target.value)}
          >
            {templates.map(({ id, doc }) => (
              <option key={id} value={id}>
                {doc.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {template && (
        <div className="mt-2">
          <Finds rules={template.doc} />
        </div>
      )}
      {templateId !== '' && !shown && <QueryFrame query={query} bars={4} />}
      {shown && (
        <>
          <Send
            whole={whole}
            people={shown.people}
            onDone={() => {
              onSent?.();
              onClose();
            }}
          />
          <People people={shown.people} />
        </>
      )}
    </SidePanel>
  );
}

type Whole = Omit<Parameters<typeof invitationsApi.usePreviewInvitationsQuery>[0] & object, 'patientIds'>;

interface SendProps {
  readonly whole: Whole;
  readonly people: readonly PreviewedInvitation[];
  readonly onDone: () => void;
}

/** Sends them a few at a time, with how far it has come; what is left after a fault can be sent again. */
function Send({ whole, people, onDone }: SendProps) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const sayRefused = useSayRefused();
  const [send] = invitationsApi.useSendInvitationsMutation();
  const [done, setDone] = useState<number | null>(null);
  const ids = people.filter(({ refused }) => refused === null).map(({ patientId }) => patientId);
  const go = async () => {
    let [sent, leftOut] = [0, 0];
    const undos: string[] = [];
    setDone(0);
    for (let at = 0; at < ids.length; at += INVITED_AT_ONCE) {
      const { data, error } = await send({ ...whole, patientIds: ids.slice(at, at + INVITED_AT_ONCE) });
      if (!data) {
        sayRefused(error);
        break;
      }
      sent += data.sent.length;
      leftOut += data.leftOut.length;
      if (data.undo) undos.push(data.undo.id);
      setDone(Math.min(at + INVITED_AT_ONCE, ids.length));
    }
    setDone(null);
    const text = t('invite.sent', { count: sent });
    const lines = leftOut ? [t('invite.leftOutNow', { count: leftOut })] : [];
    if (undos.length === 1) undo(text, undos[0], lines);
    else if (undos.length) toast(text, { description: [...lines, t('invite.undoInActs')].join('\n') });
    if (sent) onDone();
  };
  return (
    <div className="mt-2 flex flex-col gap-2">
      {ids.length > 0 && (
        <Button look="primary" className="self-start" disabled={done !== null} onClick={() => void go()}>
          {t('invite.send', { count: ids.length })}
        </Button>
      )}
      {done !== null && (
        <progress aria-label={t('invite.sending')} className="w-full accent-accent" value={done} max={ids.length} />
      )}
    </div>
  );
}

/** Who gets what, each to be opened; then who gets nothing, and why. */
function People({ people }: { people: readonly PreviewedInvitation[] }) {
  const { t } = useTranslation();
  const [open, setOpen] = useState<string | null>(people.length === 1 ? people[0].patientId : null);
  const get = people.filter(({ message }) => message !== null);
  const none = people.filter(({ refused }) => refused !== null);
  return (
    <>
      <ul className="mt-2 flex flex-col" aria-label={t('invite.gets')}>
        {get.map(({ patientId, name, message }) =>
          message ? (
            <li key={patientId} data-invites={patientId} className="border-b border-line py-1">
              <button
                type="button"
                aria-expanded={open === patientId}
                className="flex min-h-7 w-full flex-wrap items-baseline gap-x-2 text-left hover:underline"
                onClick={() => setOpen(open === patientId ? null : patientId)}
              >
                <b>{name}</b>
                <span className="text-muted">
                  {t(`invite.by.${message.channel}`)} · {t(`recalls.list.${message.language}`)}
                  {message.channel === 'sms' && ` · ${t('invite.parts', { count: message.parts })}`}
                </span>
                {message.laterBy && (
                  <span className="w-full text-warning">
                    {t(`invite.later.${message.laterBy}`, {
                      when: `${formatDate(dateOf(message))}, ${timeOf(message.sendAt, message.timeZone)}`,
                    })}
                  </span>
                )}
              </button>
              {open === patientId && (
                <p className="my-1 rounded-md bg-surface-deep px-3 py-2 whitespace-pre-line" lang={message.language}>
                  {message.body.replace('{link}', `${window.location.host}/i/…`)}
                </p>
              )}
            </li>
          ) : null,
        )}
      </ul>
      {none.length > 0 && (
        <section aria-label={t('invite.getNothing')} className="mt-3">
          <h3 className="font-bold">{t('invite.getNothing')}</h3>
          <ul>
            {none.map(({ patientId, name, refused }) => (
              <li key={patientId} className="py-0.5">
                {name || t('invite.hidden')}: {refused && t(`invite.refused.${refused}`)}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

/** The date of sending where the patient's home site is. */
function dateOf({ sendAt, timeZone }: { sendAt: string; timeZone: string }): string {
  return new Intl.DateTimeFormat('en-CA', { timeZone }).format(new Date(sendAt));
}
