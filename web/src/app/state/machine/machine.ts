import { createActionGroup, createReducer, emptyProps, on, props } from '@ngrx/store';
import * as z from 'zod';

const share = z.number().min(0).max(10);

/** What this machine can bear. It belongs to the machine and not to the show. */
export const machineSchema = z.object({
  /** Share of one core that sound may use, as measured. */
  budget: share,
  /** The same as the player has set it; null to go by what was measured. */
  chosen: share.min(0.01).nullable(),
  /** What each shared effect costs. */
  effects: z.object({ reverb: share, delay: share, chorus: share }),
});
export type MachineState = z.infer<typeof machineSchema>;

/** Until it is measured: a cautious guess. */
const UNKNOWN: MachineState = {
  budget: 0.4,
  chosen: null,
  effects: { reverb: 0, delay: 0, chorus: 0 },
};

export const machine = createActionGroup({
  source: 'Machine',
  events: {
    Measured: props<Omit<MachineState, 'chosen'>>(),
    'Measuring asked': emptyProps(),
    Remembered: props<{ machine: MachineState }>(),
    'Budget chosen': props<{ budget: number | null }>(),
  },
});

export const machineReducer = createReducer<MachineState>(
  UNKNOWN,
  on(machine.remembered, (_state, { machine: remembered }) => remembered),
  on(machine.measured, (state, { budget, effects }) => ({ ...state, budget, effects })),
  on(machine.budgetChosen, (state, { budget }) => ({ ...state, chosen: budget })),
);
