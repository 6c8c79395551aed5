import type { VisitDetails } from '@zaguan/contracts/patientVisit';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { apiError } from '../../../shared/api/contractApi.ts';
import { formatDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { AskBirthDate, Loaded, Step, useLanguage } from '../booking/index.ts';
import { Document } from './Document.tsx';
import { PacketList } from './PacketList.tsx';
import { VisitFacts } from './VisitFacts.tsx';
import { visitApi } from './visit.api.ts';

/** The link of a message: clinic and date at once, the rest after the date of birth. Opening it changes nothing. */
export function VisitPage() {
  const { t } = useTranslation();
  const { token = '' } = useParams();
  const query = visitApi.useLookQuery({ token });
  return (
    <Loaded query={query} rows={2} gone="LinkGone">
      {(look) => <Opened token={token} look={look} key={token} title={t('visit.title')} />}
    </Loaded>
  );
}

function Opened({
  token,
  look,
  title,
}: {
  token: string;
  look: { clinic: string; phone: string; date: string; locked: boolean };
  title: string;
}) {
  const { t } = useTranslation();
  const language = useLanguage();
  const [birthDate, setBirthDate] = useState('');
  const [open, opening] = visitApi.useOpenMutation();
  const [confirm, confirming] = visitApi.useConfirmMutation();
  const [cancel, cancelling] = visitApi.useCancelMutation();
  const [fetchPacket, packet] = visitApi.usePacketMutation();
  const [doing, setDoing] = useState<string | null>(null);
  const refused = apiError(opening.error) ?? apiError(confirming.error) ?? apiError(cancelling.error);
  const visit: VisitDetails | undefined = (cancelling.data ?? confirming.data ?? opening.data)?.visit;
  const proved = { token, birthDate, language };
  const show = async (typed: string) => {
    setBirthDate(typed);
    const { data } = await open({ ...proved, birthDate: typed });
    if (data?.visit.status === 'booked') void fetchPacket({ ...proved, birthDate: typed });
  };
  const shown = packet.data?.packet;
  if (doing && shown)
    return (
      <Document
        key={doing}
        packet={shown}
        documentId={doing}
        token={token}
        birthDate={birthDate}
        onLeave={() => void fetchPacket(proved).then(() => setDoing(null))}
      />
    );
  return (
    <Step question={title} back={false} phone={look.phone}>
      {!visit && <p className="mb-4 text-lg font-bold">{formatDate(look.date, language)}</p>}
      {refused && (
        <div className="mb-4">
          <Notice tone="danger" live="assertive">
            {t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}
          </Notice>
        </div>
      )}
      {!visit && !look.locked && (
        <AskBirthDate
          text={t('visit.askBirth')}
          action={t('visit.show')}
          busy={opening.isLoading}
          onShow={(typed) => void show(typed)}
        />
      )}
      {look.locked && !refused && <Notice tone="danger">{t('error.LinkLocked')}</Notice>}
      {visit && (
        <div className="flex flex-col gap-4">
          <VisitFacts visit={visit} />
          {visit.startsAbout && (
            <Notice tone="warning">
              {t('visit.runsLate', { time: timeOf(visit.startsAbout, visit.timeZone, language) })}
            </Notice>
          )}
          {visit.status === 'booked' && <CalendarLink visit={visit} />}
          {visit.status === 'booked' && shown && <PacketList packet={shown} onOpen={setDoing} />}
          {visit.status === 'booked' && !visit.confirmed && visit.asksToConfirm && (
            <Button
              look="accent"
              className="min-h-12"
              disabled={confirming.isLoading}
              onClick={() => void confirm(proved)}
            >
              {t('visit.confirm')}
            </Button>
          )}
          {visit.mayCancel && <CancelButton busy={cancelling.isLoading} onCancel={() => void cancel(proved)} />}
          {visit.status === 'cancelled' && <BookAnother />}
          {visit.status === 'booked' && !visit.mayCancel && <p>{t('visit.tooLate', { phone: look.phone })}</p>}
        </div>
      )}
    </Step>
  );
}

function CalendarLink({ visit }: { visit: VisitDetails }) {
  const { t } = useTranslation();
  return (
    <a
      className="inline-flex min-h-11 items-center self-start text-accent underline"
      href={`data:text/calendar;charset=utf-8,${encodeURIComponent(visit.calendar)}`}
      download="visit.ics"
    >
      {t('visit.calendar')}
    </a>
  );
}

function BookAnother() {
  const { t } = useTranslation();
  return (
    <Link
      className="inline-flex min-h-12 items-center justify-center rounded-md bg-accent font-semibold text-on-fill"
      to="/"
    >
      {t('visit.another')}
    </Link>
  );
}

/** A patient can't take a cancelling back, so it is asked once more. */
function CancelButton({ busy, onCancel }: { busy: boolean; onCancel: () => void }) {
  const { t } = useTranslation();
  const [asked, setAsked] = useState(false);
  if (!asked)
    return (
      <Button look="danger" className="min-h-12" onClick={() => setAsked(true)}>
        {t('visit.cancel')}
      </Button>
    );
  return (
    <div className="flex flex-col gap-2 rounded-md border border-danger p-3">
      <p className="font-bold">{t('visit.sure')}</p>
      <Button look="danger" className="min-h-12" disabled={busy} onClick={onCancel}>
        {t('visit.yesCancel')}
      </Button>
      <Button className="min-h-12" onClick={() => setAsked(false)}>
        {t('visit.keep')}
      </Button>
    </div>
  );
}
