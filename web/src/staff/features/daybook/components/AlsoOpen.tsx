import { Eye } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { isUnattended } from '../../../../shared/api/attention.ts';
import { daybookApi } from '../daybook.api.ts';

/** Twice, before nobody is said to look any more (`LOOKS_SECONDS`). */
const EVERY_MS = 10_000;

/** Who else has this visit open, so that two do not change it without knowing. */
export function AlsoOpen({ visitId }: { visitId: string }) {
  const { t } = useTranslation();
  const [look] = daybookApi.useLookAtVisitMutation();
  const [others, setOthers] = useState<readonly string[]>([]);
  useEffect(() => {
    let isOpen = true;
    const id = visitId as never;
    const say = async () => {
      // A tab in the background, or a desk that nobody sits at, looks at nothing.
      if (document.hidden || isUnattended()) return;
      const { data } = await look({ id, left: false });
      if (isOpen && data) setOthers(data.others);
    };
    void say();
    const timer = setInterval(() => void say(), EVERY_MS);
    return () => {
      isOpen = false;
      clearInterval(timer);
      void look({ id, left: true });
    };
  }, [visitId, look]);
  if (!others.length) return null;
  return (
    <p className="flex items-center gap-1.5 text-warning" role="status" data-also-open>
      <Eye size={15} aria-hidden="true" /> {t('visit.alsoOpen', { names: others.join(', ') })}
    </p>
  );
}
