// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { UnlessBroken } from './UnlessBroken.tsx';

const WORDS = { title: 'No page', note: 'What is saved is safe.', again: 'Again', reload: 'Load' };
let broken = true;
function Page() {
  if (broken) throw new Error('cannot be drawn');
  return <p>The page</p>;
}
const at = (path: string) => (
  <UnlessBroken words={WORDS} at={path}>
    <Page />
  </UnlessBroken>
);

beforeEach(() => {
  broken = true;
  // What React says of it besides.
  vi.spyOn(console, 'error').mockImplementation(() => undefined);
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

it('says that a page can’t be drawn and what to do, and draws it once it can be', async () => {
  render(at('/daybook'));
  expect(screen.getByRole('alert').textContent).toContain(WORDS.note);
  broken = false;
  await userEvent.click(screen.getByRole('button', { name: WORDS.again }));
  expect(screen.getByText('The page')).toBeTruthy();
});

it('tries again by itself at another address', () => {
  const { rerender } = render(at('/daybook'));
  broken = false;
  rerender(at('/daybook'));
  expect(screen.queryByText('The page')).toBeNull();
  rerender(at('/patients'));
  expect(screen.getByText('The page')).toBeTruthy();
});
