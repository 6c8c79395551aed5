import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { formatPhone } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { bookingApi } from './booking.api.ts';

/** The details of visits: on paper, or sent once more. */
export function TakeHome({ ids, maySend = true }: { ids: readonly string[]; maySend?: boolean }) {
  const { t } = useTranslation();
  const [send, { isLoading }] = bookingApi.useSendDetailsMutation();
  const onSend = async () => {
    const result = await send({ id: ids[0] } as never);
    const refused = apiError(result.error);
    if (refused) return toast.error(t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId }));
    const contact = result.data?.told?.contact;
    toast(
      contact
        ? t('book.sent', { contact: contact.startsWith('+') ? formatPhone(contact) : contact })
        : t('book.toldNothing'),
    );
  };
  return (
    <p className="flex flex-wrap gap-x-4 gap-y-1">
      <Link to={`/print/visits/${ids.join()}`} target="_blank" className="underline" data-print>
        {t('book.print')}
      </Link>
      {maySend && (
        <Button
          look="plain"
          className="px-0 py-0 font-normal underline"
          disabled={isLoading}
          onClick={() => void onSend()}
        >
          {t('book.send')}
        </Button>
      )}
    </p>
  );
}
