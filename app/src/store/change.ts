import type { Summary } from '@libretto/model';
import { commit, NewerRecord, StepGone, type Outcome } from './commit';
import { isFull } from './files';
import { newId } from './ids';
import { forgetStep, noteStep } from './journal';
import { begun, stepsNow, stored, turnsOf, withdrawn } from './library';
import { parsed, readKeys, type Drawer } from './records';
import { named, readTexts } from './texts';
import { noticed } from './session';
import { keysOf, type Label, type Op, type Step } from './step';
import type { AppDispatch, Extra, RootState } from './store';
import { untilSaved } from './unsaved';

export interface Change {
  /** What it is called, for taking it back; without it, it is not the user's. */
  label?: Label;
  documentIds: string[];
  ops: Op[];
  /** A word about it, with *Undo*. */
  say?: { code: string; values?: Record<string, string | number> };
}

type Thunk<T> = (dispatch: AppDispatch, getState: () => RootState, extra: Extra) => T;

let count = 0;
/** Instants that sort in the order in which they were asked for, also within a millisecond. */
function instant(): string {
  const ms = Math.max(Date.now(), count + 1);
  count = ms;
  return new Date(ms).toISOString();
}

export function makeStep({ tab }: Pick<Extra, 'tab'>, { label, documentIds, ops }: Change): Step {
  return { id: newId(), tab, at: instant(), ...(label && { label }), documentIds, ops };
}

/**
 * The one way to change anything that is stored. It is shown at once, noted in the journal within the call, and then applied to what is stored now.
 *
 * @returns once it is stored: what it has come to; null when it could not be, which has been said, and what is stored is shown again.
 */
export function change(wanted: Change): Thunk<Promise<Outcome | null>> {
  return async (dispatch, _getState, extra) => {
    if (!wanted.ops.length) return null;
    const step = makeStep(extra, wanted);
    dispatch(begun(step));
    if (wanted.say) dispatch(noticed({ ...wanted.say, ...(step.label && { undo: step.id }) }));
    return dispatch(take(step));
  };
}

/** Takes a step that is noted in the journal until it is stored. */
export function take(step: Step): Thunk<Promise<Outcome | null>> {
  return (dispatch, _getState, extra) => {
    // What the work behind finds out can be found out again; applied late, it could falsify what has happened since.
    if (step.label || step.of) noteStep(step);
    const work = async (): Promise<Outcome | null> => {
      try {
        const outcome = await commit(step);
        dispatch(stored(outcome));
        extra.tellStored(outcome);
        extra.say({ kind: 'stored', outcome });
        return outcome;
      } catch (error) {
        dispatch(noticed(problemOf(error)));
        dispatch(withdrawn({ step: step.id, ...(await storedNow(step)) }));
        return null;
      } finally {
        forgetStep(step);
      }
    };
    return untilSaved(work());
  };
}

function problemOf(error: unknown) {
  if (error instanceof NewerRecord) return { code: 'notice.newer' };
  if (error instanceof StepGone) return { code: 'notice.stepGone' };
  if (isFull(error)) return { code: 'notice.full' };
  return { code: 'notice.notStored', values: { said: (error as Error).message } };
}

async function storedNow(step: Step): Promise<Omit<Parameters<typeof withdrawn>[0], 'step'>> {
  const keys = keysOf(step.ops);
  try {
    const { records, newer } = await readKeys(keys);
    const drawers = await readTexts(step.documentIds.map(named.drawerOf));
    const summaries = step.documentIds.flatMap((id): Summary | [] => parsed<Drawer>(drawers[named.drawerOf(id)], {})[id] ?? []);
    return { records: [...records], gone: keys.filter((k) => !records.has(k) && !newer.has(k)), summaries };
  } catch {
    return { records: [], gone: [], summaries: [] };
  }
}

/** Takes a step back, that one and no other, or does it again; says so where somebody has changed the same since. */
export function turn(stepId: string, state: 'done' | 'undone'): Thunk<Promise<void>> {
  return async (dispatch, getState, extra) => {
    const known = stepsNow(getState().library).find((s) => s.id === stepId);
    const step: Step = {
      ...makeStep(extra, { documentIds: known?.documentIds ?? [], ops: [] }),
      of: { step: stepId, state },
    };
    dispatch(begun(step));
    const outcome = await dispatch(take(step));
    if (outcome?.stays) dispatch(noticed({ code: outcome.changed.length ? 'notice.partlyBack' : 'notice.changedSince' }));
  };
}

export const undo = (stepId: string) => turn(stepId, 'undone');
export const redo = (stepId: string) => turn(stepId, 'done');

/** A document's last step is taken back, or the last of all; its last one that was is done again. */
export function undoLast(documentId?: string): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    const { undo: last } = turnsOf(stepsNow(getState().library), documentId);
    if (last) await dispatch(undo(last.id));
  };
}
export function redoLast(documentId?: string): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    const { redo: next } = turnsOf(stepsNow(getState().library), documentId);
    if (next) await dispatch(redo(next.id));
  };
}
