import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import styled from 'styled-components';
import { claimWords } from '../../../core/plan/claim-words.ts';
import type { Claim, Item } from '../../../core/model/parts.ts';
import { itemsInOrder, measurandsInOrder } from '../../../core/model/in-order.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { CLAIM_KINDS } from '../../../core/model/words.ts';
import { parseQuantity } from '../../../core/quantity/parse.ts';
import { problemText } from '../../app/api/client.ts';
import { createPart, deletePart } from '../../app/api/studies.ts';
import { tellDone, tellFailure } from '../../app/tell.ts';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { Segments } from '../../ui/segments.tsx';
import { FieldLabel, TextField } from '../../ui/text-field.tsx';
import { attributeColumns } from '../../../core/plan/attributes.ts';
import { dayAndTime } from '../../ui/when.ts';

const List = styled.ul`
  display: grid;
  gap: 10px;
  max-width: 860px;
  margin-bottom: 14px;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 44px;
    gap: 8px;
    align-items: start;
  }
  small {
    display: block;
    font-size: var(--size-15);
    color: var(--quiet);
  }
`;

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

function NewClaim({ document, onDone }: { document: StudyDocument; onDone: () => void }) {
  const measurands = measurandsInOrder(document).filter(
    ({ direction, expression }) => direction.kind !== 'unranked' || expression === null,
  );
  const allItems = itemsInOrder(document);
  const attributes = attributeColumns(allItems);
  const factors = document.factors.filter(({ id }) =>
    document.levels.some(({ factorId }) => factorId === id),
  );
  const ranked = allItems.filter(({ role }) => role !== 'control');
  const [kind, setKind] = useState<Claim['kind']>('order');
  const [measurandId, setMeasurandId] = useState(measurands[0]?.id ?? '');
  const [order, setOrder] = useState<readonly Item[]>(ranked);
  const [itemId, setItemId] = useState(allItems[0]?.id ?? '');
  const [value, setValue] = useState('');
  const [along, setAlong] = useState(
    factors[0] ? `factor/${factors[0].id}` : attributes[0] ? `attribute/${attributes[0].name}` : '',
  );
  const [step, setStep] = useState('');
  const [source, setSource] = useState('');
  const [problem, setProblem] = useState<{ field: 'value' | 'step' | 'all'; text: string }>();
  const measurand = measurands.find(({ id }) => id === measurandId);
  const factor = factors.find(({ id }) => along === `factor/${id}`);
  const attribute = attributes.find(({ name }) => along === `attribute/${name}`);
  const stepUnit = factor?.unit ?? attribute?.unit ?? '';
  const alongOptions = [
    ...factors.map(({ id, name }) => ({ value: `factor/${id}`, label: name })),
    ...attributes.map(({ name }) => ({ value: `attribute/${name}`, label: name })),
  ];

  const add = async () => {
    if (!measurand) return;
    const fields = {
      kind,
      measurandId: measurand.id,
      order: kind === 'order' ? order.map(({ id }) => id) : [],
      itemId: kind === 'figure' ? itemId : null,
      value: null as number | null,
      unit: kind === 'order' ? '' : measurand.unit,
      factorId: kind === 'step' ? (factor?.id ?? null) : null,
      attribute: kind === 'step' && !factor ? (attribute?.name ?? '') : '',
      stepSize: null as number | null,
      source: source.trim(),
    };
    if (kind !== 'order') {
      // The figure is understood in any unit that fits, and told in the measurand's own.
      const understood = parseQuantity(value, measurand.unit);
      if ('problem' in understood) {
        setProblem({ field: 'value', text: understood.problem });
        return;
      }
      fields.value = understood.number;
    }
    if (kind === 'step' && step.trim() !== '') {
      const understood = parseQuantity(step, stepUnit);
      if ('problem' in understood || understood.number <= 0) {
        setProblem({
          field: 'step',
          text: 'problem' in understood ? understood.problem : 'A step is more than 0.',
        });
        return;
      }
      fields.stepSize = understood.number;
    } else if (kind === 'step' && !factor) {
      setProblem({ field: 'step', text: 'How much of it is one step?' });
      return;
    }
    try {
      await createPart(document.study.id, 'claims', fields);
      onDone();
    } catch (error) {
      setProblem({ field: 'all', text: problemText(error) });
    }
  };
  const clear = () => {
    setProblem(undefined);
  };
  return (
    <>
      <Segments
        label="What is claimed"
        labelHidden
        value={kind}
        onChange={(next) => {
          setKind(next);
          clear();
        }}
        options={CLAIM_KINDS.filter((offered) => offered !== 'step' || alongOptions.length > 0).map(
          (offered) => ({
            value: offered,
            label: KIND_LABELS[offered],
          }),
        )}
      />
      <Choice
        label="About"
        value={measurandId}
        options={measurands.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={setMeasurandId}
      />
      {kind === 'order' && (
        <ExpectedOrder
          items={order}
          onChange={(next) => {
            setOrder(next);
          }}
        />
      )}
      {kind === 'figure' && (
        <Pair>
          <Choice
            label="Item"
            value={itemId}
            options={allItems.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={setItemId}
          />
          <TextField
            label="Figure"
            value={value}
            suffix={measurand?.unit ?? ''}
            help="Another unit may stand behind it"
            problem={problem?.field === 'value' ? problem.text : undefined}
            onChange={(next) => {
              setValue(next);
              clear();
            }}
          />
        </Pair>
      )}
      {kind === 'step' && (
        <>
          <Pair>
            <Choice label="Along" value={along} options={alongOptions} onChange={setAlong} />
            <TextField
              label="One step is"
              value={step}
              suffix={stepUnit}
              placeholder={factor ? 'one level' : '10'}
              problem={problem?.field === 'step' ? problem.text : undefined}
              onChange={(next) => {
                setStep(next);
                clear();
              }}
            />
          </Pair>
          <TextField
            label="Each step changes the value by"
            value={value}
            suffix={measurand?.unit ?? ''}
            placeholder="−10"
            problem={problem?.field === 'value' ? problem.text : undefined}
            onChange={(next) => {
              setValue(next);
              clear();
            }}
          />
        </>
      )}
      <TextField
        label="Who says so"
        value={source}
        maxLength={300}
        placeholder="Box, data sheet, hearsay"
        problem={problem?.field === 'all' ? problem.text : undefined}
        onChange={setSource}
        onEnter={() => void add()}
      />
      <DialogActions>
        <Button tone="quiet" onPress={onDone}>
          Not now
        </Button>
        <Button tone="go" onPress={() => void add()}>
          Enter the claim
        </Button>
      </DialogActions>
    </>
  );
}

/** What is expected or claimed, entered before the readings; the ranking says what becomes of it. */
export function Claims({ document }: { document: StudyDocument }) {
  const [adding, setAdding] = useState(false);
  const first = (measurandId: string) =>
    document.readings.find((reading) => reading.measurandId === measurandId)?.takenAt;
  const remove = async (claim: Claim) => {
    try {
      await deletePart('claims', claim);
      const { studyId, version: _version, createdAt: _created, updatedAt: _updated, ...fields } = claim;
      tellDone('The claim is removed.', () => createPart(studyId, 'claims', fields));
    } catch (error) {
      tellFailure(error);
    }
  };
  return (
    <>
      {document.claims.length === 0 && (
        <p style={{ maxWidth: '68ch', marginBottom: 12 }}>
          What do you expect, what does the maker say, what does everybody know? Entered before the first
          reading, it is checked fairly.
        </p>
      )}
      <List>
        {document.claims.map((claim) => {
          const begun = first(claim.measurandId);
          return (
            <li key={claim.id}>
              <div>
                <bdi>{claimWords(claim, document)}</bdi>
                <small>
                  {claim.source && (
                    <>
                      <bdi>{claim.source}</bdi>.{' '}
                    </>
                  )}
                  Entered {dayAndTime(claim.createdAt)}
                  {begun !== undefined &&
                    (claim.createdAt < begun ? ', before the first reading' : ', after the first reading')}
                  .
                </small>
              </div>
              <IconButton
                label={`Remove the claim ${claimWords(claim, document)}`}
                onPress={() => void remove(claim)}
              >
                <Trash2 size={18} aria-hidden />
              </IconButton>
            </li>
          );
        })}
      </List>
      <Button
        isDisabled={document.items.length === 0 || document.measurands.length === 0}
        onPress={() => {
          setAdding(true);
        }}
      >
        <Plus size={18} aria-hidden /> A claim
      </Button>
      <Dialog
        title="A claim to check"
        isOpen={adding}
        onClose={() => {
          setAdding(false);
        }}
      >
        <NewClaim
          document={document}
          onDone={() => {
            setAdding(false);
          }}
        />
      </Dialog>
    </>
  );
}
