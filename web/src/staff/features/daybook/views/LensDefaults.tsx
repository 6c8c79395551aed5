import { ROLES, type Role } from '@zaguan/contracts';
import type { DaybookView } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { Box } from '../../../forms/index.ts';
import { useSayRefused } from '../../../shell/useSayRefused.ts';
import { useUndoToast } from '../../undo/index.ts';
import { daybookApi } from '../daybook.api.ts';

interface Props {
  readonly view: DaybookView;
  readonly defaults: readonly { readonly role: Role; readonly viewId: string }[];
}

/** Which roles begin with a shared Lens. Each choice holds at once, and can be taken back. */
export function LensDefaults({ view, defaults }: Props) {
  const { t } = useTranslation();
  const sayRefused = useSayRefused();
  const toast = useUndoToast();
  const [setDefault] = daybookApi.useSetDefaultViewMutation();
  const set = async (role: Role, isDefault: boolean) => {
    const { data, error } = await setDefault({ role, viewId: (isDefault ? view.id : null) as never });
    sayRefused(error);
    if (data) toast(t('daybookView.defaultSet', { role: t(`role.${role}`) }), data.undo.id);
  };
  return (
    <fieldset className="mt-4 border-t border-line pt-3">
      <legend className="sr-only">{t('daybookView.defaultFor')}</legend>
      <p className="mb-1 font-semibold" aria-hidden="true">
        {t('daybookView.defaultFor')}
      </p>
      <div className="flex flex-wrap gap-1">
        {ROLES.map((role) => (
          <Box
            key={role}
            text={t(`role.${role}`)}
            checked={defaults.some((each) => each.role === role && each.viewId === view.id)}
            onChange={(checked) => void set(role, checked)}
          />
        ))}
      </div>
      <p className="mt-1 text-muted">{t('daybookView.defaultHint')}</p>
    </fieldset>
  );
}
