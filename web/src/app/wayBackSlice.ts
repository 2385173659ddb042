import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** A screen that somebody left to settle something, and wants to come back to. */
export interface WayBack {
  /** Its address. */
  readonly to: string;
  /** What it is called. @example 'Close March 2026' */
  readonly name: string;
}

/** The way back to what somebody was about to do. */
export const wayBackSlice = createSlice({
  name: 'wayBack',
  initialState: { way: null } as { readonly way: WayBack | null },
  reducers: {
    leftFor: (state, { payload }: PayloadAction<WayBack>) => {
      state.way = payload;
    },
    cameBack: (state) => {
      state.way = null;
    },
  },
});

export const { leftFor, cameBack } = wayBackSlice.actions;
