import * as booking from '@zaguan/contracts/booking';
import * as clinic from '@zaguan/contracts/clinic';
import * as openings from '@zaguan/contracts/openings';
import * as proof from '@zaguan/contracts/proof';
import * as verification from '@zaguan/contracts/verification';
import { expect, it } from 'vitest';
import * as remotes from './remotes.ts';

const CONTRACTS: Record<string, unknown> = { ...booking, ...clinic, ...openings, ...proof, ...verification };

it.each(Object.entries(remotes))('%s calls where its contract says', (name, remote) => {
  expect(CONTRACTS[name]).toMatchObject(remote);
});
