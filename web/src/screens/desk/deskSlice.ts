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
  /** The row whose split was begun by key, and whose first part is to be typed into. */
  readonly splitBegun: string | null;
  /** What was typed and not posted yet, by row. */
  readonly edits: Readonly<Record<string, DraftCoding>>;
  /** The draft versions of lines saved since they were fetched. */
  readonly draftVersions: Readonly<Record<string, number>>;
  readonly isExcluding: boolean;
  /** A dialog that is open over the Desk. */
  readonly dialog: DeskDialog | null;
  /** Lines that are ticked, to be coded together whatever their stacks. */
  readonly ticked: Readonly<Record<string, TickedLine>>;
  /** All decided lines that match are ticked, also those that were not fetched. */
  readonly isAllTicked: boolean;
  /** On a narrow screen the sheet stands in the place of the list. */
  readonly isSheetOpen: boolean;
  /** Lines of which somebody said that they are new, whatever fits in the books. */
  readonly newLines: Readonly<Record<string, true>>;
  /** Stacks that were sent to be posted, and left the list with it: they are back where nothing comes of it. */
  readonly leaving: Readonly<Record<string, true>>;
  /** The scope last looked at, as the address has it, and in which books. */
  readonly kept: { readonly booksId: string; readonly query: string };
}

const initialState: DeskState = {
  currentId: null,
  currentIndex: 0,
  openStack: null,
  editing: null,
  splitBegun: null,
  edits: {},
  draftVersions: {},
  isExcluding: false,
  dialog: null,
  ticked: {},
  isAllTicked: false,
  isSheetOpen: false,
  newLines: {},
  leaving: {},
  kept: { booksId: '', query: '' },
};

/** The state of the Desk's interface. */
export const deskSlice = createSlice({
  name: 'desk',
  initialState,
  reducers: {
    moved: (state, { payload }: PayloadAction<{ id: string; index: number }>) => {
      if (state.currentId !== payload.id) {
        state.editing = null;
        state.splitBegun = null;
      }
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
    splitStarted: (state, { payload }: PayloadAction<string>) => {
      state.splitBegun = payload;
      state.editing = null;
    },
    draftSaved: (state, { payload }: PayloadAction<{ id: string; version: number }>) => {
      state.draftVersions = { ...state.draftVersions, [payload.id]: payload.version };
    },
    /** A stack is posted as a whole: the cursor goes on to what takes its place. */
    left: (state, { payload }: PayloadAction<string>) => {
      state.leaving[payload] = true;
      state.currentId = null;
      state.editing = null;
    },
    /** Nothing came of posting a stack. */
    stayed: (state, { payload }: PayloadAction<string>) => {
      delete state.leaving[payload];
    },
    /** Rows were decided: what was typed into them is done with. */
    settled: (state, { payload }: PayloadAction<readonly string[]>) => {
      const gone = new Set(payload);
      // Where a stack left before, somebody may be typing into another row by now.
      if (!payload.some((id) => id in state.leaving)) state.editing = null;
      const others = <T>(of: Readonly<Record<string, T>>) =>
        Object.fromEntries(Object.entries(of).filter(([id]) => !gone.has(id)));
      state.ticked = others(state.ticked);
      state.isAllTicked = false;
      state.edits = others(state.edits);
      state.draftVersions = others(state.draftVersions);
      state.newLines = others(state.newLines);
      state.leaving = others(state.leaving);
    },
    excludeAsked: (state, { payload }: PayloadAction<boolean>) => {
      state.isExcluding = payload;
      state.editing = null;
    },
    /** Another lane, scope or books: the cursor starts at the top. */
    scopeChanged: (state) => {
      state.currentId = null;
      state.ticked = {};
      state.isAllTicked = false;
      state.currentIndex = 0;
      state.openStack = null;
      state.editing = null;
      state.isExcluding = false;
      state.isSheetOpen = false;
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
      state.isAllTicked = false;
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
    /** Everything that matches, of which these lines were fetched. */
    allTicked: (state, { payload }: PayloadAction<readonly ({ id: string } & TickedLine)[]>) => {
      state.ticked = Object.fromEntries(payload.map(({ id, ...line }) => [id, line]));
      state.isAllTicked = true;
    },
    sheetTurned: (state, { payload }: PayloadAction<boolean>) => {
      state.isSheetOpen = payload;
    },
    scopeKept: (state, { payload }: PayloadAction<DeskState['kept']>) => {
      state.kept = payload;
    },
    ticksCleared: (state) => {
      state.ticked = {};
      state.isAllTicked = false;
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
  splitStarted,
  left,
  stayed,
  settled,
  excludeAsked,
  dialogOpened,
  linesTicked,
  allTicked,
  takenForNew,
  scopeKept,
  sheetTurned,
  ticksCleared,
  scopeChanged,
} = deskSlice.actions;
