import type { Me } from '@zaguan/contracts/accounts';
import { DropdownMenu } from 'radix-ui';
import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import { accountsApi } from '../features/accounts/accounts.api.ts';
import { dropDrafts } from '../forms/keptDrafts.ts';
import { prefs, THEMES, type Theme } from '../prefs.slice.ts';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { MENU_ITEM } from './ActionMenu.tsx';

/** Who you are, how bright it is, and the way out. */
export function AccountMenu({ me }: { me: Me }) {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const theme = useAppSelector((state) => state.prefs.theme);
  const [signOut] = accountsApi.useSignOutMutation();
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="w-full rounded-md px-2 py-1.5 text-left hover:bg-chrome-raised">
        <span className="block leading-tight font-bold">{me.name}</span>
        <span className="block text-sm">{t(`role.${me.role}`)}</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content side="right" align="end" className="rounded-md border border-line-strong bg-panel p-1">
          <DropdownMenu.Label className="px-3 pt-1 text-sm text-muted">{t('theme.label')}</DropdownMenu.Label>
          <DropdownMenu.RadioGroup
            value={theme}
            onValueChange={(value) => dispatch(prefs.actions.choseTheme(value as Theme))}
          >
            {THEMES.map((each) => (
              <DropdownMenu.RadioItem key={each} value={each} className={MENU_ITEM}>
                <span className="inline-block w-4">
                  <DropdownMenu.ItemIndicator>✓</DropdownMenu.ItemIndicator>
                </span>
                {t(`theme.${each}`)}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => void navigate('/undo')}>
            {t('acts.menu')}
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={MENU_ITEM}
            // What was typed and not sent may be about a patient.
            onSelect={() => {
              dropDrafts();
              void signOut({});
            }}
          >
            {t('signOut')}
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
