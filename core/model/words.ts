/** The closed lists of the model, without the schema builder, so that a page can use them lightly. */
export const STUDY_STATUSES = ['open', 'archived', 'deleted'] as const;
export const ITEM_ROLES = ['candidate', 'baseline', 'control'] as const;
export const DIRECTIONS = ['higher', 'lower', 'nearest', 'unranked'] as const;
export const READING_SOURCES = ['typed', 'timer', 'instrument', 'recording', 'import'] as const;
export const DECISION_ACTIONS = [
  'leave-out',
  'misfire',
  'take-again',
  'take-back',
  'keep',
  'withdraw',
  'restore',
  'skip',
  'unskip',
  'add-run',
  'remove-run',
  'amend-session',
  'look',
] as const;
export const RULE_NAMES = [
  'none',
  'generalized-esd',
  'grubbs',
  'dixon',
  'modified-z',
  'fences',
  'chauvenet',
  'peirce',
  'drop-extremes',
  'trimmed',
  'plausibility',
] as const;
/** Whether all samples of a study share the level of a rule that tests, or each has it for itself. */
export const RULE_LEVELS = ['study', 'sample'] as const;
/** What a rule judges in rounds: the reading itself, or its distance from the median of its round. */
export const RULE_JUDGES = ['distance', 'reading'] as const;
/** How planned looks share the chance of a false winner: hardly any of it early, or alike at each look. */
export const SPENDINGS = ['late', 'even'] as const;
/** Marks available: each is a shape and a colour, never a colour alone. */
export const MARK_COUNT = 12;
/** How the runs are put in order. */
export const ORDER_KINDS = ['shuffled-rounds', 'full-shuffle', 'fixed', 'balanced-square'] as const;
/** How the draws of a round come from the seed: by streams that are near each other, or mixed first. */
export const DRAWS = ['by-stream', 'mixed'] as const;
/** What is done about something that changes along with the item. */
export const CONFOUND_HANDLINGS = ['held', 'recorded', 'accepted'] as const;
/** What can hurt at the bench. */
export const HAZARDS = [
  'mains',
  'stored-energy',
  'projectiles',
  'cutting',
  'heat',
  'fire-fumes',
  'cryogens',
  'magnets',
  'bright-light',
  'loud-sound',
  'lifting',
  'food',
  'body',
  'dust',
] as const;
/** What is part of the plan’s promise: a change of it is logged. */
export const WATCHED_FIELDS = [
  'margin',
  'rule',
  'direction',
  'spec',
  'expression',
  'corrections',
  'claim',
  'blind',
  'looks',
  'class',
  'role',
] as const;
/** Whether the bench shows codes in place of names: never, until they are opened, or opened already. */
export const BLINDING = ['no', 'blind', 'opened'] as const;
export const CLAIM_KINDS = ['order', 'figure', 'step'] as const;
/** What is known from elsewhere: n, mean and SD of readings, or a range. */
export const FIGURE_KINDS = ['summary', 'range'] as const;
export const FACTOR_KINDS = ['treatment', 'position', 'numeric'] as const;
/** When a wait of the procedure comes. */
export const WAIT_TIMES = ['session', 'item', 'reading'] as const;
/** What a condition is: a quantity, a word of the tester's, or yes or no. */
export const CONDITION_KIND_NAMES = ['number', 'word', 'yes-no'] as const;

/** When in a session a condition was read. */
export const CONDITION_TIMES = ['start', 'during', 'end'] as const;
/** How the readings of a session came: taken at the bench, or read in from a file. */
export const SESSION_KINDS = ['bench', 'import'] as const;
/** Rounds of a study that nobody has planned yet: the rule in force leaves nothing out of fewer readings. */
export const NEW_ROUNDS = 5;
/** How values of several measurands become one score: by span, ratio to the best, standard score or place. */
export const SCORING_SCHOOLS = ['span', 'ratio', 'standard', 'points'] as const;
/** An item that lacks a value is scored on what it has, or not at all. */
export const MISSING_VALUES = ['score-the-rest', 'no-score'] as const;
/** The parts of a report, in their usual order. Title and question always stand on top. */
export const REPORT_PARTS = [
  'answer',
  'picture',
  'ranking',
  'overall',
  'earlier',
  'others',
  'claims',
  'left-out',
  'findings',
  'sessions',
  'plan',
  'method',
  'limits',
  'cautions',
  'photos',
  'provenance',
] as const;
