import { useTranslation } from 'react-i18next';
import { Navigate, useNavigate } from 'react-router';
import { shortDate } from '../../../../shared/time/format.ts';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { Loaded } from '../components/Loaded.tsx';
import { Choice, Step } from '../components/Step.tsx';
import { useLanguage } from '../hooks/useLanguage.ts';
import { useTrail } from '../hooks/useTrail.ts';
import { choices } from '../choices.slice.ts';

export function WhoPage() {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const language = useLanguage();
  const trail = useTrail();
  const { kind, siteId, visitTypeId } = useAppSelector((state) => state.choices);
  const query = bookingApi.useProvidersQuery(
    { siteId: siteId ?? '', visitTypeId: visitTypeId ?? '', kind: kind ?? 'new', language },
    { skip: !siteId || !kind || !visitTypeId },
  );
  if (!siteId || !kind || !visitTypeId) return <Navigate to="/" replace />;
  const choose = (id: string) => {
    dispatch(choices.actions.choseProvider(id));
    void navigate('/when');
  };
  return (
    <Step question={t('who.question')} trail={trail}>
      <Loaded query={query}>
        {({ providers }) => (
          <div className="flex flex-col gap-3">
            <Choice title={t('who.anyone')} detail={t('who.anyoneWhy')} onClick={() => choose('anyone')} />
            {providers.map((provider) => (
              <Choice
                key={provider.id}
                title={`${provider.name}, ${provider.credentials}`}
                detail={provider.bio}
                aside={
                  provider.firstDate
                    ? t('who.first', { date: shortDate(provider.firstDate, language) })
                    : t('who.noneSoon')
                }
                onClick={() => choose(provider.id)}
              />
            ))}
          </div>
        )}
      </Loaded>
    </Step>
  );
}
