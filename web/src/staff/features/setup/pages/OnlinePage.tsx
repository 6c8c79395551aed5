import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import type { VisitTypeDoc } from '@zaguan/contracts/setup';
import type { TFunction } from 'i18next';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useUndoToast } from '../../undo/index.ts';
import { Box, type Option } from '../../../forms/index.ts';
import { formatPolicy } from '../editors/formatPolicy.ts';
import { useRecords, useRefs } from '../hooks/useRefs.ts';
import { setupApi } from '../setup.api.ts';
import { SetupFrame } from './SetupFrame.tsx';

/** One sentence where all sites come to the same, and no provider has a level of their own. */
function alike(doc: VisitTypeDoc, sites: readonly { readonly id: string }[], t: TFunction): string | null {
  if (doc.siteIds !== null || doc.policies.some((row) => row.providerId)) return null;
  const words = new Set(sites.map(({ id }) => formatPolicy(doc.policies, id, null, t)));
  return words.size === 1 ? [...words][0] : null;
}

function toggle(list: readonly string[], value: string, on: boolean): string[] {
  return on ? [...list, value] : list.filter((each) => each !== value);
}

/** What patients can book, type by type and site by site, and one act that turns it on. */
export function OnlinePage() {
  const { t } = useTranslation();
  const refs = useRefs();
  const query = setupApi.useRecordsQuery('visit-type');
  const types = useRecords('visit-type').filter(({ active }) => active);
  const sites = useRecords('site').filter(({ active }) => active);
  return (
    <SetupFrame title={t('setup.place.online')} note={t('setup.onlineNote')} query={query}>
      <ScrollRegion sideways className="min-h-0 flex-1 p-4" aria-label={t('setup.place.online')}>
        {query.data?.mayEdit && <TurnOn sites={refs.sites} providers={refs.providers} types={refs.types} />}
        <table className="mt-4 w-full text-left">
          <thead>
            <tr className="border-b border-line-strong">
              <th scope="col" className="py-1.5 pr-3">
                {t('setup.place.visit-type')}
              </th>
              {sites.map((site) => (
                <th key={site.id} scope="col" className="w-[19%] py-1.5 pr-3">
                  {site.doc.name}
                  {!site.doc.bookableOnline && (
                    <Link
                      to={`/setup/site?open=${site.id}&field=bookableOnline`}
                      className="block text-sm font-normal text-danger underline"
                    >
                      {t('setup.siteOff')}
                    </Link>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {types.map(({ id, doc }) => (
              <tr key={id} data-type={id} className="border-b border-line align-top">
                <th scope="row" className="py-1.5 pr-3 font-semibold">
                  <Link className="underline underline-offset-2" to={`/setup/visit-type?open=${id}&field=policies`}>
                    {doc.name}
                  </Link>
                </th>
                {alike(doc, sites, t) && (
                  <td colSpan={sites.length} className="py-1.5 pr-3 text-sm">
                    {alike(doc, sites, t)}
                  </td>
                )}
                {!alike(doc, sites, t) &&
                  sites.map((site) => {
                    const performed = doc.siteIds === null || doc.siteIds.includes(site.id);
                    const words = performed ? formatPolicy(doc.policies, site.id, null, t) : t('setup.notHere');
                    const own = doc.policies.filter(
                      (row) => row.providerId && row.offered && (row.siteId === null || row.siteId === site.id),
                    ).length;
                    return (
                      <td key={site.id} className="py-1.5 pr-3 text-sm">
                        {words}
                        {own > 0 && <span className="block text-accent">{t('setup.ownLevels', { count: own })}</span>}
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

function Row({
  label,
  options,
  chosen,
  onChange,
}: {
  label: string;
  options: readonly Option[];
  chosen: readonly string[];
  onChange: (next: string[]) => void;
}) {
  return (
    <fieldset className="flex items-start gap-2">
      <legend className="float-left w-28 pt-1 font-semibold">{label}</legend>
      <div className="flex flex-1 flex-wrap gap-1">
        {options.map(({ value, label: text }) => (
          <Box
            key={value}
            text={text}
            checked={chosen.includes(value)}
            onChange={(on) => onChange(toggle(chosen, value, on))}
          />
        ))}
      </div>
    </fieldset>
  );
}

function TurnOn({
  sites,
  providers,
  types,
}: {
  sites: readonly Option[];
  providers: readonly Option[];
  types: readonly Option[];
}) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [siteIds, setSites] = useState<string[]>([]);
  const [providerIds, setProviders] = useState<string[]>([]);
  const [visitTypeIds, setTypes] = useState<string[]>([]);
  const [open, { data, error, isLoading }] = setupApi.useOpenOnlineMutation();
  const refused = apiError(error);
  const go = async () => {
    const result = await open({ siteIds, providerIds, visitTypeIds });
    if (!('data' in result) || !result.data) return;
    undo(t('setup.opened', { count: result.data.gained }), result.data.undo.id);
    setSites([]);
    setProviders([]);
    setTypes([]);
  };
  return (
    <div className="flex flex-col gap-2 rounded-md border border-line-strong bg-panel p-3" data-turn-on>
      <h2 className="font-bold">{t('setup.turnOn')}</h2>
      <Row label={t('setup.place.site')} options={sites} chosen={siteIds} onChange={setSites} />
      <Row label={t('setup.providers')} options={providers} chosen={providerIds} onChange={setProviders} />
      <Row label={t('setup.place.visit-type')} options={types} chosen={visitTypeIds} onChange={setTypes} />
      <div>
        <Button look="accent" disabled={isLoading || !siteIds.length || !visitTypeIds.length} onClick={() => void go()}>
          {t('setup.turnOnGo')}
        </Button>
      </div>
      {refused && (
        <Notice tone="danger" live="assertive">
          {t(`error.${refused.tag}`, { requestId: refused.requestId })}
        </Notice>
      )}
      {data && (
        <Notice tone={data.silent.length ? 'warning' : 'success'}>
          <p className="font-bold">{t('setup.opened', { count: data.gained })}</p>
          {data.silent.map((row) => (
            <p key={`${row.name}${row.siteName}`}>
              {t('setup.stillSilent', {
                name: row.name,
                site: row.siteName,
                why: t(`whyNot.code.${row.code}`, { defaultValue: row.code }),
              })}
            </p>
          ))}
        </Notice>
      )}
    </div>
  );
}
