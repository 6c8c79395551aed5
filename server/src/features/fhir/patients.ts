import type { InputOf } from '@zaguan/contracts';
import * as contract from '@zaguan/contracts/fhir';
import { toPatient } from '../../exchange/fhir/patientToFhir.ts';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { mayOpenRestricted } from '../restricted/index.ts';
import { fhirPatients } from './fhir.repository.ts';
import { asWire, baseOf, pageOf, searchset } from './searching.ts';

async function search(ctx: Ctx, input: InputOf<typeof contract.searchPatients>) {
  const base = baseOf(ctx);
  const { page, ...rest } = pageOf(await fhirPatients(ctx.em, input._id, mayOpenRestricted(ctx)), input);
  ctx.viewed(page.map(({ id }) => id));
  const resources = page.map((row) => toPatient(row, base));
  return searchset(ctx, 'Patient', input, { resources, ...rest });
}

export const patientFhirEndpoints = [
  handle(contract.readPatient, async (ctx, { id }) => {
    const [row] = await fhirPatients(ctx.em, [id], mayOpenRestricted(ctx));
    // Whether there is a record that may not be opened is not said.
    if (!row) return ctx.fail('NotFound');
    ctx.viewed([id]);
    return asWire(toPatient(row, baseOf(ctx)));
  }),
  handle(contract.searchPatients, search),
];
