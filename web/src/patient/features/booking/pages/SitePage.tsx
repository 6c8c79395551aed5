import { useTranslation } from 'react-i18next';
import { Navigate, useNavigate } from 'react-router';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { Loaded } from '../components/Loaded.tsx';
import { Choice, Step } from '../components/Step.tsx';
import { useLanguage } from '../hooks/useLanguage.ts';
import { choices } from '../choices.slice.ts';

export function SitePage() {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const language = useLanguage();
  const kind = useAppSelector((state) => state.choices.kind);
  const query = bookingApi.useClinicQuery({ language });
  if (!kind) return <Navigate to="/" replace />;
  return (
    <Step question={t('site.question')}>
      <Loaded query={query}>
        {({ sites }) => (
          <div className="flex flex-col gap-3">
            {sites.map((site) => (
              <Choice
                key={site.id}
                title={site.name}
                detail={`${site.address}, ${site.city}`}
                aside={site.directions}
                onClick={() => {
                  dispatch(choices.actions.choseSite(site.id));
                  void navigate('/what');
                }}
              />
            ))}
          </div>
        )}
      </Loaded>
    </Step>
  );
}
