import * as contract from '@zaguan/contracts/availability';
import { handle } from '../../platform/endpoint/handler.ts';
import { addWorkingHours, listWorkingHours, removeWorkingHours, restoreWorkingHours } from './workingHours.ts';

export { WorkingHoursEntity } from './availability.entities.ts';

export const availabilityEndpoints = [
  handle(contract.listWorkingHours, listWorkingHours),
  handle(contract.addWorkingHours, addWorkingHours),
  handle(contract.removeWorkingHours, removeWorkingHours),
];

/** Commands that may stand as an inverse. */
export const availabilityCommands = {
  'availability.removeWorkingHours': removeWorkingHours,
  'availability.restoreWorkingHours': restoreWorkingHours,
};
