import { passwordChange, personPut, sessionClose, sessionOpen } from '../access/handlers.ts';
import { caseHandlers } from '../cases/handlers.ts';
import { classHandlers } from '../classes/handlers.ts';
import { attachmentAdd } from '../attachments/attachments.ts';
import { importHandlers } from '../imports/handlers.ts';
import { batchStart, batchState, batchUpdate } from '../ledger/batches.ts';
import { parcelLeave } from '../ledger/leave.ts';
import { movementCorrect } from '../ledger/movements.ts';
import { observationAdd } from '../ledger/observations.ts';
import { stepFinish } from '../ledger/finish.ts';
import { stepHands } from '../ledger/hands.ts';
import { stepTimes } from '../ledger/times.ts';
import { stepClose, stepOpen, stepUpdate, stepVoid } from '../ledger/steps.ts';
import { undoHandler } from '../ledger/undo.ts';
import { movementAdd } from '../ledger/weighing.ts';
import { machineEventAdd, machinePut, machineToken } from '../machines/handlers.ts';
import { monthHandlers } from '../months/handlers.ts';
import { planHandlers } from '../plan/handlers.ts';
import { readingsAdd, readingsStream } from '../readings/handlers.ts';
import { pageHandlers } from '../publicBar/handlers.ts';
import { skillHandlers } from '../skills/handlers.ts';
import { stationRooms } from '../stations/rooms.ts';
import { workshopSetup, workshopUpdate } from '../workshop/handlers.ts';
import { stockHandlers } from '../stock/handlers.ts';
import { recallKeep } from '../trace/recalls.ts';
import { setAsideSeen } from '../workshop/setAside.ts';
import type { Handler } from './command.ts';

const entries: readonly Handler[] = [
  personPut,
  sessionOpen,
  sessionClose,
  passwordChange,
  workshopSetup,
  workshopUpdate,
  setAsideSeen,
  machinePut,
  machineToken,
  machineEventAdd,
  attachmentAdd,
  batchStart,
  batchUpdate,
  batchState,
  stepOpen,
  stepUpdate,
  stepClose,
  stepFinish,
  stepVoid,
  stepHands,
  stepTimes,
  movementAdd,
  movementCorrect,
  parcelLeave,
  observationAdd,
  readingsAdd,
  readingsStream,
  ...importHandlers,
  ...stockHandlers,
  recallKeep,
  ...caseHandlers,
  ...classHandlers,
  ...pageHandlers,
  ...skillHandlers,
  ...monthHandlers,
  ...planHandlers,
  ...stationRooms.flatMap((room) => room.handlers),
];

/** Every kind of entry the workshop knows. */
export const handlers: readonly Handler[] = [...entries, undoHandler(entries)];
