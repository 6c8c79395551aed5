import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../shared/api/contractApi.ts';

/** Says why something was refused, where no form or panel is there to say it; nothing where it was not. */
export function useSayRefused(): (error: unknown) => void {
  const { t } = useTranslation();
  return (error) => {
    const refused = apiError(error);
    if (refused) toast.error(t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId }));
  };
}
