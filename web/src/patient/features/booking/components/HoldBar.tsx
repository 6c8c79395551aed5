import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';

/** Below this many seconds the page offers more time; WCAG 2.2.1 asks for a warning at least 20 seconds before. */
const WARN_SECONDS = 120;

/** The last warning, said aloud at once: 20 seconds to press a button. */
const LAST_SECONDS = 20;

/** How long the time is still kept. Only the minutes are announced: a screen reader must not hear every second. */
export function HoldBar({
  secondsLeft,
  mayExtend,
  onExtend,
}: {
  secondsLeft: number;
  mayExtend: boolean;
  onExtend: () => void;
}) {
  const { t } = useTranslation();
  const clock = `${Math.floor(secondsLeft / 60)}:${String(secondsLeft % 60).padStart(2, '0')}`;
  return (
    <div className="flex items-center gap-3">
      <p className="flex-1" aria-hidden="true" data-testid="hold-left">
        {t('you.kept', { time: clock })}
      </p>
      <span className="sr-only" role="timer" aria-live="polite">
        {t('you.kept', { time: `${Math.ceil(secondsLeft / 60)} min` })}
      </span>
      {secondsLeft > 0 && secondsLeft <= LAST_SECONDS && (
        <p role="alert" className="font-bold text-warning">
          {t('you.endsSoon')}
        </p>
      )}
      {mayExtend && (
        <Button className={`min-h-11 ${secondsLeft < WARN_SECONDS ? 'border-warning' : ''}`} onClick={onExtend}>
          {t('you.more')}
        </Button>
      )}
    </div>
  );
}
