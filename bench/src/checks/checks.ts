import { benchFaults } from './faults';
import { benchSamePage } from './samePage';
import { benchSideways } from './sideways';

/** Scripted photographs that have or have not what the checks are to tell. */
export async function benchChecks(): Promise<void> {
  await benchFaults();
  await benchSamePage();
  await benchSideways();
}
