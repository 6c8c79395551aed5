import { type DaybookView, VIEW_SCOPES, ZOOMS } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { prefs } from '../../../prefs.slice.ts';
import { PopoverButton } from '../../../shell/PopoverButton.tsx';
import { useAppDispatch } from '../../../store.ts';
import { STANDARD_KEY, type useLens } from './useLens.ts';

/** Which Lens the Daybook is drawn by, and what is changed of it here for the moment: names, and how wide an hour is. */
export function LensMenu({ lens }: { lens: ReturnType<typeof useLens> }) {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const { views, chosen, state, view } = lens;
  const { zoom, namesHidden } = view;
  const hidden = namesHidden ? t('daybookView.hidden') : '';
  // Why names are hidden, where no Lens says so, must not wait until somebody opens the menu.
  const lost = state === 'gone' || state === 'failed' ? t(`daybookView.${state}Short`) : '';
  const which = [chosen?.name, lost, hidden].filter(Boolean).join(', ');
  const words = [t('daybookView.title'), which].filter(Boolean).join(': ');
  return (
    <PopoverButton name="lens" words={words} title={words} isMarked={namesHidden} className="w-80" modal>
      {state !== 'there' && state !== 'loading' && (
        <p role="alert" className="mb-2 font-semibold text-danger">
          {t(`daybookView.${state}`)}
        </p>
      )}
      <fieldset className="flex flex-col">
        <legend className="sr-only">{t('daybookView.title')}</legend>
        <Choice
          name={t('daybookView.standard')}
          hotkey={STANDARD_KEY}
          isChosen={chosen === null && state === 'there'}
          onChoose={() => lens.choose(null)}
        />
        {VIEW_SCOPES.map((scope) => (
          <Choices key={scope} views={views.filter((each) => each.scope === scope)} lens={lens} />
        ))}
      </fieldset>
      <Link
        to={`/daybook/lenses/${chosen?.id ?? ''}`}
        className="mt-1 inline-block font-semibold text-accent underline"
      >
        {t('daybookView.edit')}
      </Link>
      <label className="mt-3 flex items-start gap-2 border-t border-line pt-3">
        <input
          type="checkbox"
          className="mt-0.5 size-4 accent-accent"
          checked={namesHidden}
          onChange={(event) => dispatch(prefs.actions.hidNames(event.target.checked))}
        />
        <span>
          {t('daybookView.hideNames')}
          <span className="block text-sm text-muted">{t('daybookView.hideNamesHint')}</span>
        </span>
      </label>
      <div className="mt-3 flex items-center gap-2">
        <span id="daybook-view-zoom">{t('daybookView.width')}</span>
        <Button
          aria-label={t('daybookView.narrower')}
          className="ml-auto w-9"
          disabled={zoom === ZOOMS[0]}
          onClick={() => dispatch(prefs.actions.zoomed({ from: zoom, by: -1 }))}
        >
          −
        </Button>
        <output aria-labelledby="daybook-view-zoom" className="w-12 text-center font-bold">
          {zoom === 1 ? t('daybookView.fits') : `× ${zoom}`}
        </output>
        <Button
          aria-label={t('daybookView.wider')}
          className="w-9"
          disabled={zoom === ZOOMS[ZOOMS.length - 1]}
          onClick={() => dispatch(prefs.actions.zoomed({ from: zoom, by: 1 }))}
        >
          +
        </Button>
      </div>
    </PopoverButton>
  );
}

function Choices({ views, lens }: { views: readonly DaybookView[]; lens: ReturnType<typeof useLens> }) {
  const { t } = useTranslation();
  if (!views.length) return null;
  return (
    <>
      <p className="mt-1.5 text-sm text-muted">{t(`daybookView.scope.${views[0].scope}`)}</p>
      {views.map((each) => (
        <Choice
          key={each.id}
          name={each.name}
          hotkey={each.hotkey}
          isChosen={lens.chosen?.id === each.id}
          onChoose={() => lens.choose(each)}
        />
      ))}
    </>
  );
}

function Choice({
  name,
  hotkey,
  isChosen,
  onChoose,
}: {
  name: string;
  hotkey: string | number | null;
  isChosen: boolean;
  onChoose: () => void;
}) {
  return (
    <label className="flex cursor-pointer items-center gap-2 rounded-sm px-1 py-1 hover:bg-surface-deep has-focus-visible:outline-2 has-focus-visible:outline-accent">
      <input type="radio" name="lens" className="size-4 accent-accent" checked={isChosen} onChange={onChoose} />
      <span className="min-w-0 flex-1 truncate">{name}</span>
      {hotkey !== null && (
        <kbd className="rounded-sm border border-line-strong bg-surface-deep px-1.5 font-sans">{hotkey}</kbd>
      )}
    </label>
  );
}
