/** The kinds of steps, by the groups in which History shows them. */
export const stepKindsByGroup = {
  posting: ['post', 'sweep', 'rulePost', 'recode', 'reopen', 'undoLines', 'suspend', 'pair'],
  ledger: [
    'enter',
    'changeEntry',
    'voidEntry',
    'document',
    'changeDocument',
    'voidDocument',
    'offset',
    'import',
    'makeJournalPlan',
    'changeJournalPlan',
    'removeJournalPlan',
    'postJournals',
    'skipJournal',
    'reverseEntry',
  ],
  keptOut: ['exclude', 'delete', 'bothReal', 'moveLines'],
  intake: [
    'keepBatch',
    'takeBackBatch',
    'moveBatch',
    'opening',
    'addLine',
    'keepApart',
    'replaceLine',
    'readArchive',
    'count',
  ],
  closing: [
    'agreeStatement',
    'reopenStatement',
    'changeStatement',
    'tickEntries',
    'changeCycle',
    'nameHolders',
    'prepareMonth',
    'sendBackMonth',
    'reviewMonth',
    'closeMonth',
    'reopenMonth',
    'reviewLines',
    'fileTaxReturn',
    'reportTaxElsewhere',
  ],
  asking: ['ask', 'answer'],
  making: [
    'makeAccount',
    'makePayee',
    'makeBankAccount',
    'makeCostObject',
    'importAccounts',
    'makeTaxCode',
    'changeTaxCode',
    'setRate',
    'removeRate',
    'importRates',
    'valueCurrencies',
    'changePayee',
    'mergePayee',
    'mergeAccount',
    'changeAccount',
    'changeBooks',
    'dismissNudge',
    'makeRule',
    'changeRule',
    'moveRule',
    'deleteRule',
    'markHabit',
    'mergeStacks',
    'splitStack',
  ],
  turns: ['undo', 'redo'],
} as const;

/** A group of kinds of steps. */
export type StepGroup = keyof typeof stepKindsByGroup;

/** What a step did. */
export type StepKind = (typeof stepKindsByGroup)[StepGroup][number];

/** The groups of kinds of steps. */
export const stepGroups = Object.keys(stepKindsByGroup) as [StepGroup, ...StepGroup[]];

/** All kinds of steps. */
export const stepKinds = Object.values(stepKindsByGroup).flat() as [StepKind, ...StepKind[]];
