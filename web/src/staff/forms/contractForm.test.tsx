// @vitest-environment jsdom
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { addRelationship } from '@zaguan/contracts/patients';
import i18next from 'i18next';
import { I18nextProvider, initReactI18next } from 'react-i18next';
import { afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { ERRORS_EN } from '../../shared/i18n/errors.ts';
import { en } from '../words.en.ts';
import { ContractForm, DateField, FormActions, RadioField, TextField, useContractForm } from './index.ts';
import { dropDrafts, keepDraftsFor } from './keptDrafts.ts';

type Answer = { data?: { undo: { id: string } }; error?: unknown };
const send = vi.fn<(request: unknown) => Promise<Answer>>();
const onDone = vi.fn();
const ID = '00000000-0000-4000-8000-000000000001';

function Form({ fromDate = '2026-12-01' }: { fromDate?: string }) {
  const form = useContractForm(addRelationship, {
    values: { name: '', kind: null as never, rights: ['book'], fromDate, untilDate: null, limits: '' },
    fixed: { id: ID },
    send: send as never,
    onDone,
    keepAs: 'test',
  });
  return (
    <ContractForm of={form} actions={<FormActions of={form} send="Save" leave="Give up" forgets />}>
      <TextField name="name" label="Name" />
      <RadioField name="kind" label="Kinship" options={[{ value: 'parent', label: 'Parent' }]} />
      <DateField name="untilDate" orNull label="Until" />
      <TextField name="limits" label="Limits" />
    </ContractForm>
  );
}

const show = (props: { fromDate?: string } = {}) =>
  render(
    <I18nextProvider i18n={i18next}>
      <Form {...props} />
    </I18nextProvider>,
  );
const save = () => userEvent.click(screen.getByText('Save'));

beforeAll(async () => {
  await i18next
    .use(initReactI18next)
    .init({ lng: 'en', resources: { en: { translation: { ...en, error: ERRORS_EN } } } });
});
beforeEach(() => {
  dropDrafts();
  send.mockReset();
  onDone.mockReset();
});
afterEach(cleanup);

describe('a form of a contract', () => {
  it('marks what the contract requires, and nothing else', () => {
    show();
    expect(screen.getByLabelText(/^Name/).closest('div')?.textContent).toContain('required');
    expect(screen.getByLabelText(/^Limits/).closest('div')?.textContent).not.toContain('required');
    expect(screen.getByLabelText(/^Until/).closest('div')?.textContent).not.toContain('required');
  });

  it('says at each field what the contract finds wrong, and sends nothing', async () => {
    show();
    await save();
    expect(screen.getAllByText('This is required.')).toHaveLength(2);
    expect(screen.getByLabelText(/^Name/).getAttribute('aria-invalid')).toBe('true');
    expect(send).not.toHaveBeenCalled();
  });

  it('judges fields together as the contract does', async () => {
    show();
    await userEvent.type(screen.getByLabelText(/^Name/), 'Greta');
    await userEvent.click(screen.getByLabelText('Parent'));
    await userEvent.type(screen.getByLabelText(/^Until/), '2026-11-01');
    await save();
    expect(await screen.findByText('The last date is before the first.')).toBeTruthy();
    expect(send).not.toHaveBeenCalled();
  });

  it('sends what was typed with what is fixed, once, and forgets the draft', async () => {
    send.mockResolvedValue({ data: { undo: { id: 'u' } } });
    show();
    await userEvent.type(screen.getByLabelText(/^Name/), 'Greta');
    await userEvent.click(screen.getByLabelText('Parent'));
    await save();
    await waitFor(() => expect(onDone).toHaveBeenCalledTimes(1));
    expect(send.mock.calls).toEqual([
      [
        {
          id: ID,
          name: 'Greta',
          kind: 'parent',
          rights: ['book'],
          fromDate: '2026-12-01',
          untilDate: null,
          limits: '',
        },
      ],
    ]);
    expect(sessionStorage.length).toBe(0);
  });

  it('puts a refusal at the field it names, any other beside the button, and keeps what was typed', async () => {
    show();
    await userEvent.type(screen.getByLabelText(/^Name/), 'Greta');
    await userEvent.click(screen.getByLabelText('Parent'));
    send.mockResolvedValueOnce({
      error: { tag: 'InvalidInput', requestId: 'r', facts: {}, issues: [{ path: 'name', code: 'too-long' }] },
    });
    await save();
    expect(await screen.findByText('This is too long.')).toBeTruthy();
    expect(document.activeElement).toBe(screen.getByLabelText(/^Name/));
    send.mockResolvedValueOnce({ error: { tag: 'NotAllowed', requestId: 'r', facts: {} } });
    await userEvent.type(screen.getByLabelText(/^Name/), '!');
    await save();
    expect(await screen.findByText(ERRORS_EN.NotAllowed)).toBeTruthy();
    expect((screen.getByLabelText(/^Name/) as HTMLInputElement).value).toBe('Greta!');
    expect(onDone).not.toHaveBeenCalled();
  });

  it('has what was typed again after it was closed or the page was loaded anew', async () => {
    const first = show();
    await userEvent.type(screen.getByLabelText(/^Name/), 'Greta');
    first.unmount();
    show();
    expect((screen.getByLabelText(/^Name/) as HTMLInputElement).value).toBe('Greta');
    // Signing out forgets it: it may be about a patient.
    dropDrafts();
    cleanup();
    show();
    expect((screen.getByLabelText(/^Name/) as HTMLInputElement).value).toBe('');
  });

  it('forgets what was typed when it is given up, and when somebody else works at the tab', async () => {
    keepDraftsFor('ines');
    const first = show();
    await userEvent.type(screen.getByLabelText(/^Name/), 'Greta');
    await userEvent.click(screen.getByText('Give up'));
    first.unmount();
    show();
    expect((screen.getByLabelText(/^Name/) as HTMLInputElement).value).toBe('');
    await userEvent.type(screen.getByLabelText(/^Name/), 'Otto');
    cleanup();
    // The same person after signing in again, then another one.
    keepDraftsFor('ines');
    show();
    expect((screen.getByLabelText(/^Name/) as HTMLInputElement).value).toBe('Otto');
    cleanup();
    keepDraftsFor('bo');
    show();
    expect((screen.getByLabelText(/^Name/) as HTMLInputElement).value).toBe('');
  });

  it('never keeps silent about a fault of something it does not draw', async () => {
    show({ fromDate: 'never' });
    await userEvent.type(screen.getByLabelText(/^Name/), 'Greta');
    await userEvent.click(screen.getByLabelText('Parent'));
    await save();
    expect(await screen.findByText(ERRORS_EN.InvalidInput)).toBeTruthy();
    expect(send).not.toHaveBeenCalled();
  });
});
