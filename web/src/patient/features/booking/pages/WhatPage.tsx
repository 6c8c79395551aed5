import { useTranslation } from 'react-i18next';
import { Navigate, useNavigate } from 'react-router';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { Loaded } from '../components/Loaded.tsx';
import { Choice, Step } from '../components/Step.tsx';
import { useLanguage } from '../hooks/useLanguage.ts';
import { choices } from '../choices.slice.ts';

export function WhatPage() {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const language = useLanguage();
  const { kind, siteId } = useAppSelector((state) => state.choices);
  const { data: clinic } = bookingApi.useClinicQuery({ language });
  const query = bookingApi.useVisitTypesQuery(
    { siteId: siteId ?? '', kind: kind ?? 'new', language },
    { skip: !siteId || !kind },
  );
  if (!siteId || !kind) return <Navigate to="/" replace />;
  return (
    <Step question={t('what.question')}>
      <Loaded query={query}>
        {({ visitTypes }) => (
          <div className="flex flex-col gap-3">
            {visitTypes.length === 0 && <Notice tone="warning">{t('what.none')}</Notice>}
            {visitTypes.map((type) => (
              <Choice
                key={type.id}
                title={type.name}
                detail={[type.description, type.priceNote].filter(Boolean).join(' ')}
                aside={type.lengthMin === null ? undefined : t('what.minutes', { count: type.lengthMin })}
                onClick={() => {
                  dispatch(choices.actions.choseVisitType(type));
                  void navigate(clinic?.payers.length ? '/pay' : type.needsProvider ? '/who' : '/when');
                }}
              />
            ))}
          </div>
        )}
      </Loaded>
    </Step>
  );
}
