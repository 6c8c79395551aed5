import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import { useAppDispatch } from '../../../store.ts';
import { Choice, Step } from '../components/Step.tsx';
import { choices } from '../choices.slice.ts';

/** "Not sure" counts as new; a mismatch goes to review later, never to a refusal. */
export function BeenPage() {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const choose = (kind: 'new' | 'established') => {
    dispatch(choices.actions.choseKind(kind));
    void navigate('/site');
  };
  return (
    <Step question={t('been.question')} back={false}>
      <div className="flex flex-col gap-3">
        <Choice title={t('been.yes')} onClick={() => choose('established')} />
        <Choice title={t('been.no')} onClick={() => choose('new')} />
        <Choice title={t('been.unsure')} onClick={() => choose('new')} />
      </div>
      <p className="mt-4 text-muted">{t('been.why')}</p>
    </Step>
  );
}
