import { connectionReporter } from '../shared/api/connection.ts';
import { contractQuery, makeApi } from '../shared/api/contractApi.ts';

export const reporter = connectionReporter();

// Patients have no session: their browser is known by a cookie the page can't read.
export const api = makeApi(contractQuery(() => '', reporter.watch));
