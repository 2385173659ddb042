import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { DraftCoding } from '@zubrell/contract/coding';

/** A field of a coding that can be typed into. */
export type CodingField = 'payeeId' | 'accountId' | 'taxCodeId' | 'note';

/** Dialogs of the Desk beside the one for excluding. */
export type DeskDialog = 'sweep' | 'keys' | 'ask' | 'askAll';

/** What is known of a ticked line. */
export interface TickedLine {
  readonly amount: number;
  /** In which it is. */
  readonly currency: string;
  /** The stack it was ticked in. */
  readonly stack: string;
}

interface DeskState {
  /** Where the cursor is: a row's id, and its place should the row go. */
  readonly currentId: string | null;
  readonly currentIndex: number;
  /** The stack whose lines are shown. */
  readonly openStack: string | null;
  /** The field being typed into, in the current row. */
  readonly editing: CodingField | null;
  /** What was typed and not posted yet, by row. */
  readonly edits: Readonly<Record<string, DraftCoding>>;
  /** The draft versions of lines saved since they were fetched. */
  readonly draftVersions: Readonly<Record<string, number>>;
  readonly isExcluding: boolean;
  /** A dialog that is open over the Desk. */
  readonly dialog: DeskDialog | null;
  /** Lines that are ticked, to be coded together whatever their stacks. */
  readonly ticked: Readonly<Record<string, TickedLine>>;
  /** Lines of which somebody said that they are new, whatever fits in the books. */
  readonly newLines: Readonly<Record<string, true>>;
}

const initialState: DeskState = {
  currentId: null,
  currentIndex: 0,
  openStack: null,
  editing: null,
  edits: {},
  draftVersions: {},
  isExcluding: false,
  dialog: null,
  ticked: {},
  newLines: {},
};

/** The state of the Desk's interface. */
export const deskSlice = createSlice({
  name: 'desk',
  initialState,
  reducers: {
    moved: (state, { payload }: PayloadAction<{ id: string; index: number }>) => {
      if (state.currentId !== payload.id) state.editing = null;
      state.currentId = payload.id;
      state.currentIndex = payload.index;
    },
    stackOpened: (state, { payload }: PayloadAction<string | null>) => {
      state.openStack = payload;
      state.editing = null;
    },
    fieldOpened: (state, { payload }: PayloadAction<CodingField | null>) => {
      state.editing = payload;
    },
    edited: (state, { payload }: PayloadAction<{ id: string; coding: DraftCoding }>) => {
      state.edits = { ...state.edits, [payload.id]: payload.coding };
    },
    draftSaved: (state, { payload }: PayloadAction<{ id: string; version: number }>) => {
      state.draftVersions = { ...state.draftVersions, [payload.id]: payload.version };
    },
    /** Rows were decided: what was typed into them is done with. */
    settled: (state, { payload }: PayloadAction<readonly string[]>) => {
      const gone = new Set(payload);
      const left = <T>(of: Readonly<Record<string, T>>) =>
        Object.fromEntries(Object.entries(of).filter(([id]) => !gone.has(id)));
      state.ticked = left(state.ticked);
      state.edits = left(state.edits);
      state.draftVersions = left(state.draftVersions);
      state.newLines = left(state.newLines);
      state.editing = null;
    },
    excludeAsked: (state, { payload }: PayloadAction<boolean>) => {
      state.isExcluding = payload;
      state.editing = null;
    },
    /** Another lane, scope or books: the cursor starts at the top. */
    scopeChanged: (state) => {
      state.currentId = null;
      state.ticked = {};
      state.currentIndex = 0;
      state.openStack = null;
      state.editing = null;
      state.isExcluding = false;
      state.dialog = null;
    },
    dialogOpened: (state, { payload }: PayloadAction<DeskDialog | null>) => {
      state.dialog = payload;
      state.editing = null;
    },
    linesTicked: (
      state,
      {
        payload,
      }: PayloadAction<{ lines: readonly ({ id: string } & TickedLine)[]; isOn: boolean }>,
    ) => {
      const ticked = { ...state.ticked };
      for (const { id, ...line } of payload.lines) {
        if (payload.isOn) ticked[id] = line;
        else delete ticked[id];
      }
      state.ticked = ticked;
    },
    takenForNew: (state, { payload }: PayloadAction<readonly string[]>) => {
      for (const id of payload) state.newLines[id] = true;
    },
    ticksCleared: (state) => {
      state.ticked = {};
      state.editing = null;
    },
  },
});

export const {
  moved,
  stackOpened,
  fieldOpened,
  edited,
  draftSaved,
  settled,
  excludeAsked,
  dialogOpened,
  linesTicked,
  takenForNew,
  ticksCleared,
  scopeChanged,
} = deskSlice.actions;
