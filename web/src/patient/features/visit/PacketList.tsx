import type { Packet } from '@zaguan/contracts/intake';
import { useTranslation } from 'react-i18next';
import { useLanguage } from '../booking/index.ts';

/** What the visit asks for, each with whether it is done. */
export function PacketList({ packet, onOpen }: { packet: Packet; onOpen: (documentId: string) => void }) {
  const { t } = useTranslation();
  const language = useLanguage();
  if (!packet.documents.length) return null;
  return (
    <section aria-label={t('visit.packet')}>
      <h2 className="mb-2 text-lg font-bold">{t('visit.packet')}</h2>
      <ul className="flex flex-col gap-2">
        {packet.documents.map((document) => {
          const done = document.kind === 'form' ? document.status === 'completed' : document.signed !== null;
          const begun = document.kind === 'form' && Object.keys(document.answers).length > 0;
          return (
            <li key={document.id}>
              <button
                type="button"
                data-document={document.kind}
                data-done={done}
                className="flex min-h-14 w-full items-center gap-3 rounded-md border border-line-strong bg-panel px-4 py-3 text-left enabled:hover:border-accent enabled:hover:bg-accent-subtle disabled:bg-surface"
                disabled={done && document.kind === 'consent'}
                onClick={() => onOpen(document.id)}
              >
                <span className="flex-1">
                  <span className="block font-bold">{document.title[language]}</span>
                  <span className={`block ${done ? 'text-accent' : 'text-warning'}`}>
                    {document.kind === 'consent' && document.signed
                      ? t('intake.consent.signed', { name: document.signed.signerName })
                      : t(
                          done
                            ? 'visit.docDone'
                            : begun
                              ? 'visit.docBegun'
                              : document.kind === 'consent'
                                ? 'visit.docToSign'
                                : 'visit.docToDo',
                        )}
                  </span>
                </span>
                {!(done && document.kind === 'consent') && (
                  <span aria-hidden="true" className="text-xl text-accent">
                    ›
                  </span>
                )}
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
