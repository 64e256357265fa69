import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { useRef } from 'react';
import styled from 'styled-components';
import { inOrder } from '../../../core/model/in-order.ts';
import type { Factor, Level } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { parseQuantity } from '../../../core/quantity/parse.ts';
import { createPart, deletePart, patchPart } from '../../app/api/studies.ts';
import { SavedNumber, SavedText } from '../../app/draft-field.tsx';
import { AddLine } from '../../ui/add-line.tsx';
import { Button } from '../../ui/button.tsx';
import { CheckBox } from '../../ui/check-box.tsx';
import { Choice } from '../../ui/choice.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { QuietFields } from '../../ui/quiet-fields.tsx';
import { GridCells } from './grid-cells.tsx';
import { showing } from './same-parts.ts';
import { tell, tellFailure } from '../../app/tell.ts';

const One = styled.fieldset`
  margin: 0 0 18px;
  padding: 0 0 16px;
  border: 0;
  border-bottom: 1px dashed var(--rule);
  legend {
    position: absolute;
    clip-path: inset(50%);
    width: 1px;
    height: 1px;
    overflow: hidden;
  }
`;

const Head = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) 232px 110px minmax(200px, auto) 44px;
  gap: 8px 12px;
  align-items: end;
  margin-bottom: 10px;
  @media (max-width: 820px) {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
`;

const LevelLine = styled.li<{ $numeric: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, 1fr) ${({ $numeric }) => ($numeric ? '150px' : '')} 130px 132px;
  gap: 8px;
  align-items: start;
  max-width: 700px;
`;

const KIND_OPTIONS = [
  { value: 'treatment', label: 'A treatment', help: 'what is done to the item' },
  { value: 'position', label: 'A position', help: 'where it is measured' },
  { value: 'numeric', label: 'A setting in numbers', help: 'a pressure, a distance, a load' },
] as const;

/** The name of a numeric level, unless the tester gives another: its number and unit. */
const levelName = (value: number, unit: string) => `${String(value)}${unit ? ` ${unit}` : ''}`;

/** The levels that were typed, or the one that is no number where there must be one. */
function readLevels(text: string, factor: Factor, isNumeric: boolean) {
  const levels = text
    .split(/[;\n]|,(?!\d)/)
    .map((name) => name.trim())
    .filter(Boolean)
    .map((name) => {
      const understood = isNumeric ? parseQuantity(name, factor.unit) : undefined;
      const value = understood && 'number' in understood ? understood.number : null;
      return { name: value === null ? name : levelName(value, factor.unit), value };
    });
  const wrong = isNumeric ? levels.find(({ value }) => value === null) : undefined;
  return wrong
    ? { problem: `“${wrong.name}” is not a number${factor.unit ? ` in ${factor.unit}` : ''}.` }
    : { levels };
}

async function removeFactor(factor: Factor, levels: readonly Level[]): Promise<void> {
  try {
    for (const level of levels) await deletePart('levels', level);
    await deletePart('factors', factor);
  } catch (error) {
    tellFailure(error);
  }
}

/** Makes a level the only baseline of its factor. */
async function setBaseline(levels: readonly Level[], level: Level): Promise<void> {
  for (const other of levels) {
    const baseline = other.id === level.id;
    if (other.baseline !== baseline) await patchPart('levels', other, { baseline });
  }
}

async function swapLevels(levels: readonly Level[], from: number, to: number): Promise<void> {
  const [moved, neighbour] = [levels[from], levels[to]];
  if (!moved || !neighbour) return;
  await patchPart('levels', moved, { position: neighbour.position });
  await patchPart('levels', neighbour, { position: moved.position });
}

function LevelFields({ factor, levels, place }: { factor: Factor; levels: readonly Level[]; place: number }) {
  const level = levels[place] as Level;
  return (
    <LevelLine $numeric={factor.kind === 'numeric'}>
      <SavedText
        label={`Level ${String(place + 1)} of ${factor.name}`}
        labelHidden
        saved={level.name}
        required
        save={(name) => patchPart('levels', level, { name })}
      />
      {factor.kind === 'numeric' && (
        <SavedNumber
          label={`Number of ${level.name}`}
          labelHidden
          saved={level.value}
          unit={factor.unit}
          required
          save={(value) => patchPart('levels', level, { value })}
        />
      )}
      <CheckBox
        isSelected={level.baseline}
        onChange={(ticked) => {
          tell(ticked ? setBaseline(levels, level) : patchPart('levels', level, { baseline: false }));
        }}
      >
        Baseline
      </CheckBox>
      <span style={{ display: 'flex' }}>
        <IconButton
          label={`Move ${level.name} up`}
          isDisabled={place === 0}
          onPress={() => {
            tell(swapLevels(levels, place, place - 1));
          }}
        >
          <ArrowUp size={18} aria-hidden />
        </IconButton>
        <IconButton
          label={`Move ${level.name} down`}
          isDisabled={place === levels.length - 1}
          onPress={() => {
            tell(swapLevels(levels, place, place + 1));
          }}
        >
          <ArrowDown size={18} aria-hidden />
        </IconButton>
        <IconButton
          label={`Remove the level ${level.name}`}
          onPress={() => {
            tell(deletePart('levels', level));
          }}
        >
          <Trash2 size={18} aria-hidden />
        </IconButton>
      </span>
    </LevelLine>
  );
}

/** What a factor is called and what it is. */
function FactorHead({
  factor,
  onKind,
  onRemove,
}: {
  factor: Factor;
  onKind: (kind: Factor['kind']) => void;
  onRemove: () => void;
}) {
  const save = (changes: Partial<Factor>) => patchPart('factors', factor, changes);
  return (
    <Head>
      <SavedText label="Factor" saved={factor.name} required save={(name) => save({ name })} />
      <Choice label="What it is" value={factor.kind} options={KIND_OPTIONS} onChange={onKind} />
      <SavedText
        label="Unit"
        saved={factor.unit}
        placeholder="–"
        save={(unit) => save({ unit: unit.trim() })}
      />
      <CheckBox
        isSelected={factor.irreversible}
        onChange={(irreversible) => {
          tell(save({ irreversible }));
        }}
      >
        Cannot be undone
      </CheckBox>
      <IconButton label={`Remove the factor ${factor.name}`} onPress={onRemove}>
        <Trash2 size={18} aria-hidden />
      </IconButton>
    </Head>
  );
}

function FactorFields({ document, factor }: { document: StudyDocument; factor: Factor }) {
  const levels = inOrder(document.levels.filter(({ factorId }) => factorId === factor.id));
  // What was chosen just before holds for the levels that are typed, however late the server answers.
  const choosing = useRef<{ kind: Factor['kind']; saved: Promise<unknown> }>(undefined);
  const choose = (kind: Factor['kind']) => {
    const saved = patchPart('factors', factor, { kind });
    choosing.current = { kind, saved };
    tell(
      saved.finally(() => {
        if (choosing.current?.saved === saved) choosing.current = undefined;
      }),
    );
  };
  const last = levels[levels.length - 1]?.position ?? 0;
  const add = (text: string): string | undefined => {
    const { kind = factor.kind, saved: chosen } = choosing.current ?? {};
    const read = readLevels(text, factor, kind === 'numeric');
    if ('problem' in read) return read.problem;
    const create = async () => {
      await chosen;
      for (const [i, level] of read.levels.entries()) {
        const position = last + 1 + i;
        await createPart(factor.studyId, 'levels', {
          factorId: factor.id,
          ...level,
          baseline: false,
          position,
        });
      }
    };
    tell(create());
    return undefined;
  };
  return (
    <One>
      <legend>{factor.name}</legend>
      <FactorHead factor={factor} onKind={choose} onRemove={() => void removeFactor(factor, levels)} />
      {factor.irreversible && (
        <p>
          All runs of an earlier level come before those of a later one: nothing is cut that is still needed
          whole.
        </p>
      )}
      <QuietFields as="ol" aria-label={`Levels of ${factor.name}`}>
        {levels.map(({ id }, place) => (
          <LevelFields key={id} factor={factor} levels={levels} place={place} />
        ))}
      </QuietFields>
      <div style={{ height: 8 }} />
      <AddLine
        label={`Add a level of ${factor.name}`}
        placeholder={factor.kind === 'numeric' ? '1; 2; 3' : 'A level, or several with ; between them'}
        empty="Name the level."
        onAdd={add}
      />
    </One>
  );
}

/** The factors with their levels; the grid that they make is drawn below. */
function FactorList({ document }: { document: StudyDocument }) {
  const factors = inOrder(document.factors);
  const add = () => {
    const count = factors.length;
    tell(
      createPart(document.study.id, 'factors', {
        name: count === 0 ? 'Factor' : `Factor ${String(count + 1)}`,
        kind: 'treatment',
        unit: '',
        irreversible: false,
        position: Math.max(0, ...factors.map(({ position }) => position)) + 1,
      }),
    );
  };
  return (
    <>
      {factors.length === 0 && (
        <p style={{ maxWidth: '68ch', marginBottom: 12 }}>
          Nothing else is varied. One thing at a time is the surest way; a factor, such as a pressure in three
          steps, makes every item come at each of its levels.
        </p>
      )}
      {factors.map((factor) => (
        <FactorFields key={factor.id} document={document} factor={factor} />
      ))}
      <Button onPress={add}>
        <Plus size={18} aria-hidden /> {factors.length === 0 ? 'A factor' : 'Another factor'}
      </Button>
    </>
  );
}

const List = showing(FactorList, 'factors', 'levels');

/** What is varied besides the item: factors with levels in order, and the grid that they make with the items. */
export function Factors({ document }: { document: StudyDocument }) {
  return (
    <>
      <List document={document} />
      <GridCells document={document} />
    </>
  );
}
