import type { Me } from '@zaguan/contracts/accounts';
import { changeView, type DaybookView, saveView, STANDARD_VIEW, type ViewSettings } from '@zaguan/contracts/daybook';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { ContractForm, FormActions, type Option, useContractForm } from '../../../forms/index.ts';
import { useSayRefused } from '../../../shell/useSayRefused.ts';
import { useUndoToast } from '../../undo/index.ts';
import { daybookApi } from '../daybook.api.ts';
import { LensFields } from './LensFields.tsx';

interface Props {
  readonly me: Me;
  readonly sites: readonly { readonly id: string; readonly name: string }[];
  readonly lanes: readonly Option[];
  /** What is typed, as it is typed. */
  readonly onSettings: (settings: unknown) => void;
}

type Values = Pick<DaybookView, 'name' | 'scope' | 'siteId' | 'hotkey'> & { settings: ViewSettings };

/** A Lens that isn't there yet: from nothing, or from another one. */
export function NewLens({ of, ...props }: Props & { of: DaybookView | null }) {
  const { t } = useTranslation();
  const toast = useUndoToast();
  const navigate = useNavigate();
  const [save] = daybookApi.useSaveViewMutation();
  const values: Values = {
    name: of ? t('daybookView.copyOf', { name: of.name }).slice(0, 40) : '',
    ...{ scope: 'personal', siteId: null, hotkey: null },
    settings: of?.settings ?? STANDARD_VIEW,
  };
  const form = useContractForm(saveView, {
    values,
    fixed: {},
    send: save,
    onDone: ({ id, undo }) => {
      toast(t('daybookView.saved'), undo.id);
      void navigate(`/daybook/lenses/${id}`, { replace: true });
    },
    keepAs: `lens.new.${of?.id ?? ''}`,
  });
  useTold(form.form, props.onSettings);
  return (
    <ContractForm
      of={form}
      label={t('daybookView.new')}
      className="flex flex-col gap-3"
      actions={
        <FormActions
          of={form}
          send={t('daybookView.save')}
          leave={t('daybookView.discard')}
          onLeave={() => void navigate('/daybook/lenses')}
          forgets
        />
      }
    >
      <LensFields {...props} role={props.me.role} />
    </ContractForm>
  );
}

/** A Lens that is there: changed by who may, copied by everybody. */
export function OwnLens({ view, ...props }: Props & { view: DaybookView }) {
  const { t } = useTranslation();
  const sayRefused = useSayRefused();
  const toast = useUndoToast();
  const navigate = useNavigate();
  const [change] = daybookApi.useChangeViewMutation();
  const [remove, removing] = daybookApi.useRemoveViewMutation();
  const { id, name, scope, siteId, hotkey, settings } = view;
  const values = { name, scope, siteId, hotkey, settings };
  // The state that is changed here, not whatever somebody else has made of it meanwhile.
  const [base, setBase] = useState({ version: view.version, values });
  const form = useContractForm(changeView, {
    values,
    fixed: { id: id as never, version: base.version },
    send: change,
    onDone: (answer) => {
      toast(t('daybookView.saved'), answer.undo.id);
      setBase({ version: answer.version, values: form.form.getValues() });
    },
    keepAs: `lens.${id}`,
  });
  useTold(form.form, props.onSettings);
  const goOnFrom = () => {
    form.giveUp();
    setBase({ version: view.version, values });
  };
  const isOlder = view.version > base.version;
  const isDirty = JSON.stringify(form.form.watch()) !== JSON.stringify(base.values);
  const latest = useRef(goOnFrom);
  latest.current = goOnFrom;
  useEffect(() => {
    if (isOlder && !isDirty) latest.current();
  }, [isOlder, isDirty]);
  const takeOff = async () => {
    const { data, error } = await remove({ id: id as never, version: view.version });
    sayRefused(error);
    if (!data) return;
    form.giveUp();
    toast(t('daybookView.removed', { name }), data.undo.id);
    void navigate('/daybook/lenses', { replace: true });
  };
  const copy = <Button onClick={() => void navigate(`/daybook/lenses/new?from=${id}`)}>{t('daybookView.copy')}</Button>;
  return (
    <ContractForm
      of={form}
      label={name}
      className="flex flex-col gap-3"
      actions={
        view.mayChange ? (
          <div className="flex flex-wrap gap-2">
            <FormActions of={form} send={t('daybookView.save')} leave={t('daybookView.discard')} onLeave={goOnFrom} />
            {copy}
            <Button look="danger" disabled={removing.isLoading} onClick={() => void takeOff()}>
              {t('daybookView.remove')}
            </Button>
          </div>
        ) : (
          <p className="flex items-center gap-3">
            {copy} <span className="text-muted">{t('daybookView.notYours')}</span>
          </p>
        )
      }
    >
      {isOlder && isDirty && <Notice tone="warning">{t('daybookView.changedMeanwhile')}</Notice>}
      <fieldset disabled={!view.mayChange} className="flex flex-col gap-3">
        <LensFields {...props} role={props.me.role} />
      </fieldset>
    </ContractForm>
  );
}

/** Hands on what is typed, for the sample beside the form. */
function useTold(
  form: {
    watch(told: (typed: { settings?: unknown }) => void): { unsubscribe(): void };
    getValues(): { settings?: unknown };
  },
  onSettings: (settings: unknown) => void,
): void {
  useEffect(() => {
    onSettings(form.getValues().settings);
    const watching = form.watch(({ settings }) => onSettings(settings));
    return () => watching.unsubscribe();
  }, [form, onSettings]);
}
