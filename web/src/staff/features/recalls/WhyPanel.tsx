import type { WhyRecalled } from '@zaguan/contracts/recalls';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNameOf } from '../setup/index.ts';
import { Link } from 'react-router';
import { formatDate } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { QueryFrame } from '../../shell/QueryFrame.tsx';
import { SidePanel } from '../../shell/SidePanel.tsx';
import { useSayRefused } from '../../shell/useSayRefused.ts';
import { scopeOf } from '@zaguan/contracts';
import { accountsApi } from '../accounts/index.ts';
import { useMayBook } from '../booking/index.ts';
import { PatientPicker } from '../finder/index.ts';
import { InviteLink } from '../invitations/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { ChoiceForm, type ChoiceKind } from './ChoiceForm.tsx';
import { recallsApi } from './recalls.api.ts';
import { sayListed, sayRule } from './say.ts';

interface Props {
  /** `null`: nobody is chosen yet. */
  readonly patientId: string | null;
  /** The plan of this page comes first. */
  readonly planId: string;
  readonly onPick: (patientId: string | null) => void;
  readonly onClose: () => void;
}

type PlanOf = WhyRecalled['plans'][number];

/** Why somebody is, or is not, on each plan's list: every rule; and what they want of it. */
export function WhyPanel({ patientId, planId, onPick, onClose }: Props) {
  const { t } = useTranslation();
  const query = recallsApi.useWhyRecalledQuery({ patientId: patientId ?? '' }, { skip: patientId === null });
  const mayBook = useMayBook();
  const data = patientId === null ? undefined : query.currentData;
  const plans = data?.plans.toSorted((a, b) => Number(b.planId === planId) - Number(a.planId === planId));
  return (
    <SidePanel label={t('recalls.why.title')} about={patientId ?? ''} className="w-[420px]" onClose={onClose}>
      <h2 className="text-xl font-bold">{data?.name ?? t('recalls.why.title')}</h2>
      {patientId === null ? (
        <PatientPicker label={t('recalls.why.pick')} onPick={(patient) => patient && onPick(patient.id)} />
      ) : (
        <p className="flex flex-wrap items-center gap-3">
          <Link className="underline" to={`/patients/${patientId}`}>
            {t('recalls.why.record')}
          </Link>
          {mayBook && (
            <Link className="underline" to={`/daybook?book=new&for=${patientId}`}>
              {t('book.open')}
            </Link>
          )}
          <Button look="plain" className="px-0 py-0 underline" onClick={() => onPick(null)}>
            {t('recalls.why.another')}
          </Button>
        </p>
      )}
      {patientId !== null && !data && <QueryFrame query={query} bars={4} />}
      {plans?.length === 0 && <p className="text-muted">{t('recalls.why.noPlan')}</p>}
      {data && plans?.map((plan) => <Plan key={plan.planId} of={data} plan={plan} isFirst={plan.planId === planId} />)}
      {data && data.registers.length > 0 && <Registers of={data} />}
    </SidePanel>
  );
}

function Plan({ of, plan, isFirst }: { of: WhyRecalled; plan: PlanOf; isFirst: boolean }) {
  const { t } = useTranslation();
  const nameOf = useNameOf();
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const [deciding, setDeciding] = useState<ChoiceKind | null>(null);
  const mayDecide = who?.me ? scopeOf(who.me.role, 'recalls.decide') !== 'no' : false;
  const line = sayListed(t, { ...plan, facts: {}, by: null }, of.today, nameOf);
  return (
    <section aria-label={plan.plan} data-why={plan.planId} className="mt-3 border-t border-line pt-2">
      <h3 className="flex flex-wrap items-baseline gap-2">
        <span className="text-lg font-bold">{plan.plan}</span>
        <b className="rounded-sm bg-surface-deep px-1.5" data-state={plan.state}>
          {t(`recalls.state.${plan.state}`)}
        </b>
      </h3>
      {line && <p>{line}</p>}
      <Rules plan={plan} isOpen={isFirst} />
      <Choices of={of} plan={plan} mayDecide={mayDecide} />
      {mayDecide && plan.state !== 'not-asked-for' && deciding === null && (
        <p className="mt-1 flex flex-wrap gap-2">
          {plan.state === 'due' && <InviteLink patientId={of.patientId} name={of.name} about={{ plan: plan.planId }} />}
          {(['later', 'done-elsewhere', 'declined'] as const).map((kind) => (
            <Button key={kind} onClick={() => setDeciding(kind)}>
              {t(`recalls.why.${kind}`)}
            </Button>
          ))}
        </p>
      )}
      {deciding !== null && (
        <ChoiceForm
          key={deciding}
          {...{ kind: deciding, planId: plan.planId, patientId: of.patientId, today: of.today }}
          onDone={() => setDeciding(null)}
        />
      )}
    </section>
  );
}

/** What stands in the way, and what does not. */
function Rules({ plan, isOpen }: { plan: PlanOf; isOpen: boolean }) {
  const { t } = useTranslation();
  const nameOf = useNameOf();
  const failed = plan.answers.filter(({ passed }) => !passed);
  const passed = plan.answers.filter((answer) => answer.passed);
  return (
    <>
      {failed.length > 0 && (
        <>
          <p className="text-muted">{t('recalls.why.failed')}</p>
          <ul className="list-disc pl-5">
            {failed.map((answer) => (
              <li key={answer.code} data-rule={answer.code} className="font-semibold text-danger">
                {sayRule(t, answer, nameOf)}
              </li>
            ))}
          </ul>
        </>
      )}
      <details open={isOpen && failed.length === 0}>
        <summary className="min-h-7 cursor-pointer text-muted">{t('recalls.why.passed')}</summary>
        <ul className="list-disc pl-5">
          {passed.map((answer) => (
            <li key={answer.code} data-rule={answer.code}>
              {sayRule(t, answer, nameOf)}
            </li>
          ))}
        </ul>
      </details>
    </>
  );
}

function Choices({ of, plan, mayDecide }: { of: WhyRecalled; plan: PlanOf; mayDecide: boolean }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const sayRefused = useSayRefused();
  const [takeBack] = recallsApi.useTakeBackChoiceMutation();
  return (
    <ul>
      {plan.choices.map(({ id, kind, date, note, saidBy, saidOn, version }) => (
        <li key={id} data-choice={kind} className="mt-1 flex items-start gap-2 rounded-md bg-warning-subtle px-2 py-1">
          <span className="min-w-0 flex-1">
            <b>{t(`recalls.why.said.${kind}`, { date: date ? formatDate(date, 'en', true) : '' })}</b>
            {note && ` “${note}”`}
            <span className="block text-muted">
              {t('recalls.why.by', { by: saidBy ?? t('recalls.why.thePatient'), on: formatDate(saidOn, 'en', true) })}
            </span>
          </span>
          {mayDecide && (
            <Button
              onClick={async () => {
                const { data, error } = await takeBack({ id, version });
                sayRefused(error);
                if (data) undo(t('recalls.why.takenBack'), data.undo.id);
              }}
              aria-label={`${t('recalls.why.takeBack')}: ${plan.plan}, ${of.name}`}
            >
              {t('recalls.why.takeBack')}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

function Registers({ of }: { of: WhyRecalled }) {
  const { t } = useTranslation();
  return (
    <section aria-label={t('recalls.why.onRegisters')} className="mt-3 border-t border-line pt-2">
      <h3 className="text-lg font-bold">{t('recalls.why.onRegisters')}</h3>
      <ul>
        {of.registers.map(({ memberId, register, from, until }) => (
          <li key={memberId}>
            {until === null
              ? t('recalls.why.since', { register, from: formatDate(from, 'en', true) })
              : t('recalls.why.between', {
                  register,
                  from: formatDate(from, 'en', true),
                  until: formatDate(until, 'en', true),
                })}
          </li>
        ))}
      </ul>
    </section>
  );
}
