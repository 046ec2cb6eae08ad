import { personPut, sessionClose, sessionOpen } from '../access/handlers.ts';
import { batchStart, batchState, batchUpdate } from '../ledger/batches.ts';
import { parcelLeave } from '../ledger/leave.ts';
import { movementAdd, movementCorrect } from '../ledger/movements.ts';
import { observationAdd } from '../ledger/observations.ts';
import { stepClose, stepOpen, stepUpdate, stepVoid } from '../ledger/steps.ts';
import { undoHandler } from '../ledger/undo.ts';
import { attachmentAdd } from '../stations/beans/attachments.ts';
import { lotDried, lotReceive, lotUpdate } from '../stations/beans/handlers.ts';
import { samplePut } from '../stations/beans/samples.ts';
import { ingredientPut, recipePut } from '../stations/recipe/handlers.ts';
import { machineEventAdd } from '../stations/grind/machines.ts';
import { trialPut } from '../stations/recipe/trials.ts';
import { readingsAdd, readingsStream } from '../stations/roast/handlers.ts';
import { tastingAdd } from '../stations/taste/handlers.ts';
import { machinePut, machineToken, workshopSetup, workshopUpdate } from '../stations/workshop.ts';
import type { Handler } from './command.ts';

const entries: readonly Handler[] = [
  personPut,
  sessionOpen,
  sessionClose,
  workshopSetup,
  workshopUpdate,
  machinePut,
  machineToken,
  lotReceive,
  lotUpdate,
  lotDried,
  samplePut,
  attachmentAdd,
  batchStart,
  batchUpdate,
  batchState,
  stepOpen,
  stepUpdate,
  stepClose,
  stepVoid,
  movementAdd,
  movementCorrect,
  parcelLeave,
  observationAdd,
  readingsAdd,
  readingsStream,
  ingredientPut,
  recipePut,
  trialPut,
  machineEventAdd,
  tastingAdd,
];

/** Every kind of entry the workshop knows. */
export const handlers: readonly Handler[] = [...entries, undoHandler(entries)];
