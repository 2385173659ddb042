import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** A step that can only be undone or redone with others. */
export interface TurnAsked {
  readonly direction: 'undo' | 'redo';
  readonly step: number;
  /** Names the others. */
  readonly message: string;
  /** How many others there are. */
  readonly count: number;
}

/** Whether somebody is asked about turning a step with others. */
export const undoSlice = createSlice({
  name: 'undo',
  initialState: { asked: null } as { readonly asked: TurnAsked | null },
  reducers: {
    turnAsked: (state, { payload }: PayloadAction<TurnAsked | null>) => {
      state.asked = payload;
    },
  },
});

export const { turnAsked } = undoSlice.actions;
