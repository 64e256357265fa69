import { Pencil, Plus } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import styled from 'styled-components';
import type { StripLane } from '../../strip/layout.ts';
import { MARKS, markShape } from '../../../core/model/marks.ts';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { Strip } from '../../strip/strip.tsx';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { FileButton } from '../../ui/file-button.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { Key } from '../../ui/key.tsx';
import { LinkButton } from '../../ui/link-button.tsx';
import { Menu } from '../../ui/menu.tsx';
import { ItemName } from '../../ui/name.tsx';
import { Note } from '../../ui/note.tsx';
import { Aside, EmptyState, PageHead, Row, Section, Sheet } from '../../ui/page.tsx';
import { Segments } from '../../ui/segments.tsx';
import { FigureHead, Scroll, Table } from '../../ui/table.tsx';
import { TextField } from '../../ui/text-field.tsx';
import { toast } from '../../ui/toast.tsx';

const COLOURS = [
  ['--paper', 'behind the sheet'],
  ['--sheet', 'the sheet'],
  ['--ink', 'text'],
  ['--quiet', 'quiet text'],
  ['--rule', 'lines'],
  ['--rule-strong', 'edges of controls'],
  ['--fern', 'go, good, leader'],
  ['--fern-soft', 'good, softly'],
  ['--rust', 'attention'],
  ['--rust-soft', 'attention, softly'],
] as const;

const SIZES = [104, 58, 29, 25, 19, 16, 15, 13] as const;

const Swatches = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 12px;
  li {
    font-size: var(--size-13);
  }
  span {
    display: block;
    height: 44px;
    border: 1px solid var(--rule-strong);
    border-radius: var(--corner);
    margin-bottom: 4px;
  }
`;

const Marks = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 10px 16px;
  li {
    display: flex;
    align-items: center;
    gap: 10px;
    font-size: var(--size-15);
  }
`;

const Fields = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 16px;
`;

const SAMPLE: readonly StripLane[] = [
  {
    id: 'a',
    name: 'First item',
    code: 'A',
    mark: 0,
    mean: 3.4,
    interval: [3.37, 3.43],
    figure: '3.40',
    place: '1',
    marks: [3.36, 3.38, 3.4, 3.41, 3.41, 3.44, 2.31].map((value, i) => ({
      id: `a${String(i)}`,
      value,
      out: value < 3,
      title: `round ${String(i + 1)}`,
    })),
  },
  {
    id: 'b',
    name: 'Second item',
    code: 'B',
    mark: 1,
    mean: 3.22,
    interval: [3.18, 3.26],
    figure: '3.22',
    place: '2',
    marks: [3.16, 3.19, 3.22, 3.22, 3.23, 3.28, 3.25].map((value, i) => ({
      id: `b${String(i)}`,
      value,
      out: false,
      title: `round ${String(i + 1)}`,
    })),
  },
];

const BAND = { from: 3.3, to: 3.5, label: 'within 0.1 m/s of the leader' };

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Section>
      <h2>{title}</h2>
      {children}
    </Section>
  );
}

function SampleNotes() {
  return (
    <>
      <Note tone="good" title="Good news">
        A fern edge. One plain sentence, then the number behind it.
      </Note>
      <Note
        tone="attention"
        title="Something wants attention"
        actions={
          <>
            <Button size="small">Keep it</Button>
            <Button size="small" tone="go">
              Leave out
            </Button>
          </>
        }
      >
        A rust edge, with what can be done in place.
      </Note>
      <Note title="A plain remark">Says what is in force.</Note>
      <Aside>
        <h3>A quiet heading</h3>
        <p>Text of the margin, at 15 px.</p>
      </Aside>
    </>
  );
}

function Colours() {
  return (
    <Part title="Colours">
      <Swatches>
        {COLOURS.map(([name, use]) => (
          <li key={name}>
            <span style={{ background: `var(${name})` }} />
            <b>{name.slice(2)}</b>: {use}
          </li>
        ))}
      </Swatches>
    </Part>
  );
}

function Type() {
  return (
    <Part title="Type">
      {SIZES.map((size) => (
        <p
          key={size}
          style={{
            fontSize: `${String(size / 16)}rem`,
            lineHeight: 1.2,
            fontWeight: size > 20 ? 680 : 400,
          }}
        >
          3.42 at {size} px
        </p>
      ))}
      <p style={{ fontFamily: 'var(--typed)' }}>typed text and code: 4:18.6, 12,5</p>
    </Part>
  );
}

function AllMarks() {
  return (
    <Part title="Marks">
      <Marks>
        {MARKS.map(({ shape }, i) => (
          <li key={shape}>
            <MarkSign mark={i} size={22} />
            <MarkSign mark={i} size={22} hollow />
            {markShape(i)}
          </li>
        ))}
      </Marks>
    </Part>
  );
}

function SampleDialog() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button
        onPress={() => {
          setOpen(true);
        }}
      >
        A dialog
      </Button>
      <Dialog
        title="A dialog"
        isOpen={open}
        onClose={() => {
          setOpen(false);
        }}
      >
        <p>One question, answered or left by Escape.</p>
        <DialogActions>
          <Button
            tone="go"
            onPress={() => {
              setOpen(false);
            }}
          >
            Close
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}

function Buttons() {
  return (
    <Part title="Buttons">
      <Row>
        <Button tone="go">Go</Button>
        <Button>Plain</Button>
        <Button tone="quiet">Quiet</Button>
        <Button tone="attention">Attention</Button>
        <Button isDisabled>Not now</Button>
        <Button size="small">Small</Button>
        <Button tone="go" size="large">
          Record <Key>Enter</Key>
        </Button>
        <IconButton label="Edit">
          <Pencil size={18} aria-hidden />
        </IconButton>
        <LinkButton href="#content">A link</LinkButton>
        <FileButton
          accept={['text/csv']}
          onFile={(file) => {
            toast({ text: file.name });
          }}
        >
          A file
        </FileButton>
        <Menu
          label="More"
          actions={[
            { id: 'copy', label: 'Copy the plan' },
            { id: 'delete', label: 'Delete' },
          ]}
        />
        <Button
          onPress={() => {
            toast({ text: 'Something was done.', action: { label: 'Undo', run: () => undefined } });
          }}
        >
          <Plus size={18} aria-hidden /> A message
        </Button>
        <SampleDialog />
      </Row>
    </Part>
  );
}

function SampleFields() {
  const [choice, setChoice] = useState<'one' | 'two'>('one');
  const [text, setText] = useState('Dappelin');
  return (
    <Part title="Fields">
      <Fields>
        <TextField label="Text" value={text} onChange={setText} help="Help stands below." />
        <TextField label="With a unit" value="3.42" onChange={() => undefined} suffix="m/s" />
        <TextField
          label="With something wrong"
          value="3..4"
          onChange={() => undefined}
          problem="“3..4” is not a number."
        />
        <TextField
          label="Several lines"
          value=""
          onChange={() => undefined}
          rows={2}
          placeholder="What was seen"
        />
        <Choice
          label="One of a list"
          value={choice}
          onChange={setChoice}
          options={[
            { value: 'one', label: 'The first', help: 'with a word on it' },
            { value: 'two', label: 'The second' },
          ]}
        />
        <Segments
          label="One of a few"
          value={choice}
          onChange={setChoice}
          options={[
            { value: 'one', label: 'First' },
            { value: 'two', label: 'Second' },
          ]}
        />
      </Fields>
    </Part>
  );
}

function SampleTable() {
  return (
    <Part title="Table">
      <Scroll aria-label="A sample table">
        <Table>
          <thead>
            <tr>
              <th scope="col">Item</th>
              <FigureHead>mean, m/s</FigureHead>
              <FigureHead>place</FigureHead>
            </tr>
          </thead>
          <tbody>
            <tr data-current>
              <th scope="row">
                <ItemName name="Calvessa 2" mark={1} size={14} />
              </th>
              <td className="figure">3.44</td>
              <td className="figure">1</td>
            </tr>
            <tr>
              <th scope="row">
                <ItemName name="Brunnow" mark={0} size={14} />
              </th>
              <td className="figure">3.22</td>
              <td className="figure">2–3</td>
            </tr>
          </tbody>
        </Table>
      </Scroll>
    </Part>
  );
}

/** Every token and every component, to look at. */
export function Design() {
  return (
    <Sheet notesLabel="Notes" notes={<SampleNotes />}>
      <PageHead title="The parts of the bench book">
        Every colour, size, mark and control, in the theme that is on.
      </PageHead>
      <Colours />
      <Type />
      <AllMarks />
      <Part title="The strip">
        <Strip label="A sample strip" unit="m/s" lanes={SAMPLE} band={BAND} />
      </Part>
      <Buttons />
      <SampleFields />
      <SampleTable />
      <Part title="An empty screen">
        <EmptyState
          level={2}
          title="What do you want to compare?"
          action={<Button tone="go">New study</Button>}
        >
          It says what to do next, and offers it.
        </EmptyState>
      </Part>
    </Sheet>
  );
}
