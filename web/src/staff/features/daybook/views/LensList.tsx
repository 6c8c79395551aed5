import { type DaybookView, VIEW_SCOPES } from '@zaguan/contracts/daybook';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { UnreadableNotice } from '../../../shell/UnreadableNotice.tsx';
import { useSayRefused } from '../../../shell/useSayRefused.ts';
import { useUndoToast } from '../../undo/index.ts';
import { daybookApi } from '../daybook.api.ts';
import { IconButton } from './OrderField.tsx';

interface Props {
  readonly views: readonly DaybookView[];
  readonly unreadable: readonly string[];
  readonly sites: readonly { readonly id: string; readonly name: string }[];
  /** The one that is open; `null`: none, or a new one. */
  readonly openId: string | null;
}

/** All Lenses that one can choose from, by whose they are, in their order. */
export function LensList({ views, unreadable, sites, openId }: Props) {
  const { t } = useTranslation();
  const lists = VIEW_SCOPES.flatMap((scope) =>
    scope === 'site'
      ? sites.map(({ id, name }) => ({ key: id, title: name, views: views.filter((view) => view.siteId === id) }))
      : [{ key: scope, title: t(`daybookView.scope.${scope}`), views: views.filter((view) => view.scope === scope) }],
  );
  return (
    <nav
      aria-label={t('daybookView.lenses')}
      className="flex w-56 shrink-0 flex-col gap-1 overflow-y-auto border-r border-line p-3"
    >
      <Link
        to="/daybook/lenses/new"
        className="mb-2 rounded-md border border-line-strong bg-panel px-3 py-1.5 text-center font-semibold hover:bg-surface-deep"
      >
        {t('daybookView.new')}
      </Link>
      <UnreadableNotice ids={unreadable} />
      {views.length === 0 && <p className="text-muted">{t('daybookView.none')}</p>}
      {lists
        .filter((list) => list.views.length > 0)
        .map((list) => (
          <div key={list.key}>
            <h2 className="mt-1 text-sm text-muted">{list.title}</h2>
            <Ordered views={list.views} openId={openId} />
          </div>
        ))}
    </nav>
  );
}

function Ordered({ views, openId }: Pick<Props, 'views' | 'openId'>) {
  const { t } = useTranslation();
  const sayRefused = useSayRefused();
  const toast = useUndoToast();
  const [order, ordering] = daybookApi.useOrderViewsMutation();
  const swap = async (i: number, by: 1 | -1) => {
    const ids = views.map(({ id }) => id);
    [ids[i], ids[i + by]] = [ids[i + by], ids[i]];
    const { data, error } = await order({ ids: ids as never });
    sayRefused(error);
    if (data) toast(t('daybookView.ordered'), data.undo.id);
  };
  return (
    <ul>
      {views.map(({ id, name, hotkey, mayChange }, i) => (
        <li
          key={id}
          className={`flex items-center rounded-sm pl-2 ${id === openId ? 'bg-chrome text-white' : 'hover:bg-surface-deep'}`}
        >
          <Link
            to={`/daybook/lenses/${id}`}
            aria-current={id === openId ? 'page' : undefined}
            className="min-w-0 flex-1 truncate py-1"
          >
            {name}
          </Link>
          {hotkey !== null && <kbd className="px-1 font-sans">{hotkey}</kbd>}
          {mayChange && views.length > 1 && (
            <>
              <IconButton
                label={t('daybookView.up', { what: name })}
                disabled={i === 0 || ordering.isLoading}
                onPress={() => void swap(i, -1)}
              >
                <ArrowUp size={15} aria-hidden="true" />
              </IconButton>
              <IconButton
                label={t('daybookView.down', { what: name })}
                disabled={i === views.length - 1 || ordering.isLoading}
                onPress={() => void swap(i, 1)}
              >
                <ArrowDown size={15} aria-hidden="true" />
              </IconButton>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}
