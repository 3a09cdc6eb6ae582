import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** What is going on just now; nothing of it is stored. */
export interface Work {
  /** Photos being brought in. */
  import: { documentId: string; done: number; total: number } | null;
  /** Files that could not be brought in, and why. */
  refused: { name: string; reason: string }[];
  /** Share sent of each delivery under way, 0..1. */
  sent: Record<string, number>;
  online: boolean;
  /** A word at the bottom of the screen, with an undo for a document's last step. */
  notice: { text: string; undo?: string } | null;
}

const initialState: Work = { import: null, refused: [], sent: {}, online: true, notice: null };

const work = createSlice({
  name: 'work',
  initialState,
  reducers: {
    importing(state, { payload }: PayloadAction<Work['import']>) {
      state.import = payload;
    },
    refusedFile(state, { payload }: PayloadAction<{ name: string; reason: string }>) {
      state.refused.push(payload);
    },
    refusedRead(state) {
      state.refused = [];
    },
    sending(state, { payload }: PayloadAction<{ id: string; share: number }>) {
      state.sent[payload.id] = payload.share;
    },
    onlineChanged(state, { payload }: PayloadAction<boolean>) {
      state.online = payload;
    },
    noticed(state, { payload }: PayloadAction<Work['notice']>) {
      state.notice = payload;
    },
  },
});

export const { importing, refusedFile, refusedRead, sending, onlineChanged, noticed } = work.actions;
export const workReducer = work.reducer;
