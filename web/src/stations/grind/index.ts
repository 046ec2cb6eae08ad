/** What other stations use of grinding: whether a charge fits a machine. */
export { ChargeCheck } from './ChargeCheck.tsx';
