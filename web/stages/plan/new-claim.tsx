import { ArrowDown, ArrowUp } from 'lucide-react';
import { useState } from 'react';
import styled from 'styled-components';
import { itemsInOrder, measurandsInOrder } from '../../../core/model/in-order.ts';
import type { Claim, Item } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { CLAIM_KINDS } from '../../../core/model/words.ts';
import { attributeColumns } from '../../../core/plan/attributes.ts';
import { parseQuantity } from '../../../core/quantity/parse.ts';
import { problemText } from '../../app/api/client.ts';
import { type NewPart, createPart } from '../../app/api/studies.ts';
import { isTexts, useKept } from '../../app/kept.ts';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { Choice } from '../../ui/choice.tsx';
import { DialogAnswers } from '../../ui/dialog.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { Segments } from '../../ui/segments.tsx';
import { FieldLabel, TextField } from '../../ui/text-field.tsx';

const Pair = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 12px;
`;

const Order = styled.ol`
  display: grid;
  max-height: 40vh;
  overflow-y: auto;
  li {
    display: grid;
    grid-template-columns: 28px minmax(0, 1fr) 44px 44px;
    align-items: center;
    gap: 6px;
  }
  span {
    display: inline-flex;
    gap: 8px;
    align-items: center;
    min-width: 0;
  }
`;

const KIND_LABELS: Record<Claim['kind'], string> = {
  order: 'An order',
  figure: 'A maker’s figure',
  step: 'A rule of thumb',
};

/** Items to be put in the expected order, the best first. */
function ExpectedOrder({ items, onChange }: { items: readonly Item[]; onChange: (items: Item[]) => void }) {
  const move = (from: number, to: number) => {
    const next = [...items];
    const [moved] = next.splice(from, 1);
    if (moved) next.splice(to, 0, moved);
    onChange(next);
  };
  return (
    <div>
      <FieldLabel as="span">Expected, the best first</FieldLabel>
      <Order>
        {items.map((item, place) => (
          <li key={item.id}>
            {place + 1}.
            <span>
              <MarkSign mark={item.mark} size={14} />
              <bdi>{item.name}</bdi>
            </span>
            <IconButton
              label={`Move ${item.name} up`}
              isDisabled={place === 0}
              onPress={() => {
                move(place, place - 1);
              }}
            >
              <ArrowUp size={18} aria-hidden />
            </IconButton>
            <IconButton
              label={`Move ${item.name} down`}
              isDisabled={place === items.length - 1}
              onPress={() => {
                move(place, place + 1);
              }}
            >
              <ArrowDown size={18} aria-hidden />
            </IconButton>
          </li>
        ))}
      </Order>
    </div>
  );
}

/** What can be claimed in a study, and about what. */
function claimable(document: StudyDocument) {
  const items = itemsInOrder(document);
  return {
    items,
    ranked: items.filter(({ role }) => role !== 'control'),
    measurands: measurandsInOrder(document).filter(
      ({ direction, expression }) => direction.kind !== 'unranked' || expression === null,
    ),
    factors: document.factors.filter(({ id }) => document.levels.some(({ factorId }) => factorId === id)),
    attributes: attributeColumns(items),
  };
}

type Claimable = ReturnType<typeof claimable>;

/** What is chosen of a claim. */
interface ClaimChoices {
  kind: Claim['kind'];
  measurandId: string;
  order: readonly Item[];
  itemId: string;
  /** `factor/` and an id, or `attribute/` and a name. */
  along: string;
}

/** What is typed of it, which stays until it is entered. */
type ClaimTexts = Record<
  /** The figure, or by how much a step changes the value. */ 'value' | 'step' | /** Who says so. */ 'source',
  string
>;

const NO_TEXTS: ClaimTexts = { value: '', step: '', source: '' };

const isClaimTexts = (value: unknown): value is ClaimTexts =>
  isTexts(value) && Object.keys(NO_TEXTS).every((name) => name in value);

/** A claim as it is being typed. */
type ClaimDraft = ClaimChoices & ClaimTexts;

interface ClaimProblem {
  field: 'value' | 'step' | 'all';
  text: string;
}

const firstChoices = ({ ranked, measurands, items, factors, attributes }: Claimable): ClaimChoices => ({
  kind: 'order',
  measurandId: measurands[0]?.id ?? '',
  order: ranked,
  itemId: items[0]?.id ?? '',
  along: factors[0] ? `factor/${factors[0].id}` : attributes[0] ? `attribute/${attributes[0].name}` : '',
});

/** What a rule of thumb goes along. */
function alongWhat({ factors, attributes }: Claimable, along: string) {
  const factor = factors.find(({ id }) => along === `factor/${id}`);
  const attribute = attributes.find(({ name }) => along === `attribute/${name}`);
  return { factor, attribute, unit: factor?.unit ?? attribute?.unit ?? '' };
}

/** The size of a step, none for one level of a factor. */
function stepSize(text: string, unit: string, isFactor: boolean): { size: number | null } | ClaimProblem {
  if (text.trim() === '')
    return isFactor ? { size: null } : { field: 'step', text: 'How much of it is one step?' };
  const understood = parseQuantity(text, unit);
  if ('problem' in understood) return { field: 'step', text: understood.problem };
  if (understood.number <= 0) return { field: 'step', text: 'A step is more than 0.' };
  return { size: understood.number };
}

/** The fields of the claim that was typed, or what is wrong with it. */
function claimFields(draft: ClaimDraft, about: Claimable): { fields: NewPart<'claims'> } | ClaimProblem {
  const { kind, measurandId } = draft;
  const measurand = about.measurands.find(({ id }) => id === measurandId);
  if (!measurand) return { field: 'all', text: 'Nothing that is measured can be claimed about.' };
  const { unit } = measurand;
  const fields: NewPart<'claims'> = {
    kind,
    measurandId,
    order: [],
    itemId: null,
    value: null,
    unit: '',
    factorId: null,
    attribute: '',
    stepSize: null,
    source: draft.source.trim(),
  };
  if (kind === 'order') return { fields: { ...fields, order: draft.order.map(({ id }) => id) } };
  // The figure is understood in any unit that fits, and kept in the measurand's.
  const understood = parseQuantity(draft.value, unit);
  if ('problem' in understood) return { field: 'value', text: understood.problem };
  const figure = { ...fields, unit, value: understood.number };
  if (kind === 'figure') return { fields: { ...figure, itemId: draft.itemId } };
  const { factor, attribute, unit: stepUnit } = alongWhat(about, draft.along);
  const step = stepSize(draft.step, stepUnit, factor !== undefined);
  if ('field' in step) return step;
  return {
    fields: {
      ...figure,
      factorId: factor?.id ?? null,
      attribute: factor ? '' : (attribute?.name ?? ''),
      stepSize: step.size,
    },
  };
}

interface FieldsProps {
  draft: ClaimDraft;
  about: Claimable;
  problem: ClaimProblem | undefined;
  onChange: (changes: Partial<ClaimDraft>) => void;
}

function FigureFields({ draft, about, problem, onChange }: FieldsProps) {
  return (
    <Pair>
      <Choice
        label="Item"
        value={draft.itemId}
        options={about.items.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(itemId) => {
          onChange({ itemId });
        }}
      />
      <TextField
        label="Figure"
        value={draft.value}
        suffix={about.measurands.find(({ id }) => id === draft.measurandId)?.unit ?? ''}
        help="Another unit may stand behind it"
        problem={problem?.field === 'value' ? problem.text : undefined}
        onChange={(value) => {
          onChange({ value });
        }}
      />
    </Pair>
  );
}

const alongOptions = ({ factors, attributes }: Claimable) => [
  ...factors.map(({ id, name }) => ({ value: `factor/${id}`, label: name })),
  ...attributes.map(({ name }) => ({ value: `attribute/${name}`, label: name })),
];

function StepFields({ draft, about, problem, onChange }: FieldsProps) {
  const { factor, unit } = alongWhat(about, draft.along);
  return (
    <>
      <Pair>
        <Choice
          label="Along"
          value={draft.along}
          options={alongOptions(about)}
          onChange={(along) => {
            onChange({ along });
          }}
        />
        <TextField
          label="One step is"
          value={draft.step}
          suffix={unit}
          placeholder={factor ? 'one level' : '10'}
          problem={problem?.field === 'step' ? problem.text : undefined}
          onChange={(step) => {
            onChange({ step });
          }}
        />
      </Pair>
      <TextField
        label="Each step changes the value by"
        value={draft.value}
        suffix={about.measurands.find(({ id }) => id === draft.measurandId)?.unit ?? ''}
        placeholder="−10"
        problem={problem?.field === 'value' ? problem.text : undefined}
        onChange={(value) => {
          onChange({ value });
        }}
      />
    </>
  );
}

/** A claim as it is typed, what is wrong with it, and what enters it. */
function useClaimDraft(document: StudyDocument, about: ReturnType<typeof claimable>, onDone: () => void) {
  const [choices, setChoices] = useState(() => firstChoices(about));
  const [texts, keepTexts, forgetTexts] = useKept(`claim/${document.study.id}`, () => NO_TEXTS, isClaimTexts);
  const draft: ClaimDraft = { ...choices, ...texts };
  const [problem, setProblem] = useState<ClaimProblem>();
  const change = ({ value, step, source, ...chosen }: Partial<ClaimDraft>) => {
    setChoices((before) => ({ ...before, ...chosen }));
    keepTexts((before) => ({
      value: value ?? before.value,
      step: step ?? before.step,
      source: source ?? before.source,
    }));
    setProblem(undefined);
  };
  const add = async () => {
    const read = claimFields(draft, about);
    if ('field' in read) {
      setProblem(read);
      return;
    }
    try {
      await createPart(document.study.id, 'claims', read.fields);
      forgetTexts();
      onDone();
    } catch (error) {
      setProblem({ field: 'all', text: problemText(error) });
    }
  };
  return { draft, problem, change, add };
}

/** The fields of a claim that is to be entered. */
export function NewClaim({ document, onDone }: { document: StudyDocument; onDone: () => void }) {
  const about = claimable(document);
  const { draft, problem, change, add } = useClaimDraft(document, about, onDone);
  const offered = CLAIM_KINDS.filter((kind) => kind !== 'step' || alongOptions(about).length > 0);
  const fields = { draft, about, problem, onChange: change };
  return (
    <>
      <Segments
        label="What is claimed"
        labelHidden
        value={draft.kind}
        onChange={(kind) => {
          change({ kind });
        }}
        options={offered.map((kind) => ({ value: kind, label: KIND_LABELS[kind] }))}
      />
      <Choice
        label="About"
        value={draft.measurandId}
        options={about.measurands.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(measurandId) => {
          change({ measurandId });
        }}
      />
      {draft.kind === 'order' && (
        <ExpectedOrder
          items={draft.order}
          onChange={(order) => {
            change({ order });
          }}
        />
      )}
      {draft.kind === 'figure' && <FigureFields {...fields} />}
      {draft.kind === 'step' && <StepFields {...fields} />}
      <TextField
        label="Who says so"
        value={draft.source}
        maxLength={300}
        placeholder="Box, data sheet, hearsay"
        problem={problem?.field === 'all' ? problem.text : undefined}
        onChange={(source) => {
          change({ source });
        }}
        onEnter={() => void add()}
      />
      <DialogAnswers onNo={onDone} go="Enter the claim" onGo={() => void add()} />
    </>
  );
}
