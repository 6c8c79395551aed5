import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';

interface Props {
  readonly patientId: string;
  readonly name: string;
  /** What the invitation is to. */
  readonly about:
    | { readonly plan: string }
    | { readonly request: string; readonly type: string }
    | { readonly move: string; readonly type: string };
}

/** Leads to the patient's page with the panel open that invites them to this very thing. */
export function InviteLink({ patientId, name, about }: Props) {
  const { t } = useTranslation();
  return (
    <Link
      aria-label={`${t('invite.open')} ${name}`}
      className="inline-flex items-center rounded-md border border-line-strong bg-panel px-3 py-1.5 font-semibold hover:bg-surface-deep"
      to={`/patients/${patientId}?${new URLSearchParams({ invite: 'yes', ...about }).toString()}`}
    >
      {t('invite.open')}
    </Link>
  );
}
