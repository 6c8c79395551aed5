import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Navigate, useNavigate } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { Loaded } from '../components/Loaded.tsx';
import { Choice, Step } from '../components/Step.tsx';
import { useLanguage } from '../hooks/useLanguage.ts';
import { useTrail } from '../hooks/useTrail.ts';
import { choices } from '../choices.slice.ts';

/** Who pays, where the clinic asks: whoever is not accepted, or wants something first, is said so here and not at the end. */
export function PayPage() {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const language = useLanguage();
  const trail = useTrail();
  const { kind, siteId, visitTypeId, providerId } = useAppSelector((state) => state.choices);
  const [asked, setAsked] = useState<{ id: string; name: string } | 'other' | null>(null);
  const query = bookingApi.useClinicQuery({ language });
  if (!kind || !siteId || !visitTypeId) return <Navigate to="/" replace />;
  const take = (payer: string, hasReferral = false) => {
    dispatch(choices.actions.chosePayer({ payer, hasReferral }));
    // A type without a provider had its `anyone` set with it.
    void navigate(providerId ? '/when' : '/who');
  };
  return (
    <Step question={t('pay.question')} trail={trail} onBack={asked ? () => setAsked(null) : undefined}>
      {asked === null && (
        <Loaded query={query}>
          {({ payers }) => (
            <div className="flex flex-col gap-3">
              {payers.map((payer) => (
                <Choice key={payer.id} title={payer.name} onClick={() => setAsked(payer)} />
              ))}
              <Choice title={t('pay.self')} onClick={() => take('self')} />
              <Choice title={t('pay.other')} onClick={() => setAsked('other')} />
            </div>
          )}
        </Loaded>
      )}
      {asked === 'other' && <Advice words={t('pay.otherWords')} onSelf={() => take('self')} />}
      {asked !== null && asked !== 'other' && (
        <Terms payer={asked} siteId={siteId} visitTypeId={visitTypeId} onTake={take} />
      )}
    </Step>
  );
}

function Terms({
  payer,
  siteId,
  visitTypeId,
  onTake,
}: {
  payer: { id: string; name: string };
  siteId: string;
  visitTypeId: string;
  onTake: (payer: string, hasReferral?: boolean) => void;
}) {
  const { t } = useTranslation();
  const [none, setNone] = useState(false);
  const query = bookingApi.usePayerQuery({ payerId: payer.id, siteId, visitTypeId });
  const self = () => onTake('self');
  return (
    <Loaded query={query}>
      {(terms) => {
        if (!terms.accepted) return <Advice words={t('pay.notAccepted', { name: payer.name })} onSelf={self} />;
        if (terms.authorization) return <Advice words={t('pay.authorization', { name: payer.name })} onSelf={self} />;
        if (terms.referral && none) return <Advice words={t('pay.noReferral', { name: payer.name })} onSelf={self} />;
        if (terms.referral)
          return (
            <div className="flex flex-col gap-3">
              <p>{t('pay.referral', { name: payer.name })}</p>
              <Choice title={t('pay.haveReferral')} onClick={() => onTake(payer.id, true)} />
              <Choice title={t('pay.haveNone')} onClick={() => setNone(true)} />
            </div>
          );
        return (
          <div className="flex flex-col gap-3">
            <p>{t('pay.fine', { name: payer.name })}</p>
            <Button look="accent" className="min-h-12" onClick={() => onTake(payer.id)}>
              {t('pay.goOn')}
            </Button>
          </div>
        );
      }}
    </Loaded>
  );
}

function Advice({ words, onSelf }: { words: string; onSelf: () => void }) {
  const { t } = useTranslation();
  const language = useLanguage();
  const { data: clinic } = bookingApi.useClinicQuery({ language });
  return (
    <div className="flex flex-col gap-3">
      <Notice tone="warning" live="assertive">
        {words}
      </Notice>
      {clinic && (
        <a
          className="inline-flex min-h-12 items-center justify-center rounded-md bg-accent font-semibold text-on-fill"
          href={`tel:${clinic.phone.replace(/\D/g, '')}`}
        >
          {t('call', { phone: clinic.phone })}
        </a>
      )}
      <Button className="min-h-12" onClick={onSelf}>
        {t('pay.self')}
      </Button>
    </div>
  );
}
