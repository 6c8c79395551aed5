export { SLOT_STATUSES, type Slot, slotsOn, type SlotStatus } from './slots.ts';
