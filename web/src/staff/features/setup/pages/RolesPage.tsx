import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { ACTIONS, type Action, ROLES, scopeOf } from '@zaguan/contracts';
import { useTranslation } from 'react-i18next';
import type { Dashed } from '../../../words.roles.en.ts';
import { SetupFrame } from './SetupFrame.tsx';

const LOADED = { data: true, isFetching: false, refetch: () => undefined };

/** Who may do what, out of the same table that the server asks at every call. */
export function RolesPage() {
  const { t } = useTranslation();
  return (
    <SetupFrame title={t('setup.place.roles')} note={t('setup.rolesNote')} query={LOADED}>
      <ScrollRegion sideways className="min-h-0 flex-1 px-4" aria-label={t('setup.place.roles')}>
        <table className="w-full text-left">
          <thead className="sticky top-0 bg-surface">
            <tr className="border-b border-line-strong">
              <th scope="col" className="py-1.5">
                {t('setup.action')}
              </th>
              {ROLES.map((role) => (
                <th key={role} scope="col" className="py-1.5">
                  {t(`role.${role}`)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {ACTIONS.map((action) => (
              <tr key={action} className="border-b border-line">
                <th scope="row" className="py-1 font-normal">
                  {t(`setup.actions.${dashed(action)}`)}
                </th>
                {ROLES.map((role) => {
                  const scope = scopeOf(role, action);
                  return (
                    <td key={role} className={`py-1 ${scope === 'no' ? 'text-muted' : 'font-semibold'}`}>
                      {t(`setup.scope.${scope}`)}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </ScrollRegion>
    </SetupFrame>
  );
}

/** A key of words has no dots of its own. */
function dashed<A extends Action>(action: A): Dashed<A> {
  return action.replace('.', '-') as Dashed<A>;
}
