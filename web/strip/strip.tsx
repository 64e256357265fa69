import { type ReactNode, memo, useMemo, useState } from 'react';
import styled from 'styled-components';
import { formatReading } from '../../core/quantity/format.ts';
import { Button } from '../ui/button.tsx';
import { ItemName } from '../ui/name.tsx';
import { FigureHead, Table } from '../ui/table.tsx';
import { HAND, NARROW } from '../ui/tokens.ts';
import { LANE_HEIGHT, type StripLane, fullDomain, keptDomain } from './layout.ts';
import { MarkSign } from './mark-sign.tsx';
import { markShape } from '../../core/model/marks.ts';
import { StripStage, type StripStageProps } from './strip-stage.tsx';

export interface StripProps extends StripStageProps {
  /** What the axis spans, where that is more than is shown. */
  spanned?: readonly StripLane[] | undefined;
  /** Whether its axis is one of equal ratios; where it may be, what changes that stands at the foot. */
  ratios?: boolean;
  onRatios?: ((ratios: boolean) => void) | undefined;
  /** What stands at its foot besides. */
  foot?: ReactNode;
}

const Frame = styled.div`
  position: relative;
`;

const Lanes = styled.div<{ $lane: number; $placed: boolean }>`
  display: grid;
  grid-template-columns: 148px minmax(0, 1fr) ${({ $placed }) => ($placed ? '136px' : '76px')};
  ${NARROW} {
    grid-template-columns: 126px minmax(0, 1fr) ${({ $placed }) => ($placed ? '112px' : '64px')};
  }
  ${HAND} {
    grid-template-columns: 64px minmax(0, 1fr) ${({ $placed }) => ($placed ? '88px' : '54px')};
  }
`;

const Cell = styled.div<{ $lane: number }>`
  display: flex;
  align-items: center;
  min-width: 0;
  height: ${({ $lane }) => $lane}px;
  padding-right: 8px;
  border-bottom: 1px solid var(--rule);
  font-weight: 640;
`;

const Wide = styled.span`
  display: flex;
  min-width: 0;
  ${HAND} {
    display: none;
  }
`;

/** In the hand there is room for the code alone. */
const Short = styled.span`
  display: none;
  align-items: center;
  gap: 6px;
  abbr {
    text-decoration: none;
  }
  ${HAND} {
    display: flex;
  }
`;

const Figures = styled(Cell)`
  padding-right: 0;
  justify-content: flex-end;
  gap: 12px;
  font-weight: 480;
  ${HAND} {
    gap: 4px;
    font-size: var(--size-15);
  }
  b {
    min-width: 40px;
    text-align: right;
    font-weight: 720;
    font-size: var(--size-19);
  }
`;

const Foot = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  > :first-child {
    margin-right: auto;
  }
  margin-top: 4px;
  font-size: var(--size-13);
  color: var(--quiet);
`;

const TableBox = styled.details`
  font-size: var(--size-13);
  color: var(--quiet);
  summary {
    cursor: pointer;
    width: fit-content;
    padding: 6px 0;
  }
`;

/** The item of a lane. A decision changes none of them. */
const LaneHead = memo(function LaneHead({
  name,
  code,
  mark,
  laneHeight,
}: Pick<StripLane, 'name' | 'code' | 'mark'> & { laneHeight: number }) {
  return (
    <Cell $lane={laneHeight}>
      <Wide>
        <ItemName name={name} mark={mark} />
      </Wide>
      <Short>
        <MarkSign mark={mark} size={14} />
        <abbr title={name}>{code}</abbr>
      </Short>
    </Cell>
  );
});

/** What stands at the end of a lane. */
const LaneFigure = memo(function LaneFigure({
  figure,
  place,
  placed,
  laneHeight,
}: {
  figure: StripLane['figure'];
  place: StripLane['place'];
  placed: boolean;
  laneHeight: number;
}) {
  return (
    <Figures $lane={laneHeight}>
      {figure}
      {placed && <b>{place}</b>}
    </Figures>
  );
});

/** The same as the strip, in a table; made when it is opened, since it may hold thousands of readings. */
const StripTable = memo(function StripTable({ lanes, unit }: Pick<StripProps, 'lanes' | 'unit'>) {
  const [open, setOpen] = useState(false);
  return (
    <TableBox
      onToggle={(event) => {
        setOpen(event.currentTarget.open);
      }}
    >
      <summary>The same as a table</summary>
      {open && (
        <Table>
          <thead>
            <tr>
              <th scope="col">Item</th>
              <th scope="col">Readings{unit && `, ${unit}`}</th>
              <th scope="col">Left out</th>
              <FigureHead>Mean</FigureHead>
            </tr>
          </thead>
          <tbody>
            {lanes.map((lane) => (
              <tr key={lane.id}>
                <th scope="row">
                  <bdi>{lane.name}</bdi> ({lane.code}, {markShape(lane.mark)})
                </th>
                <td>
                  {lane.marks
                    .filter(({ out }) => !out)
                    .map(({ value }) => formatReading(value))
                    .join('; ')}
                </td>
                <td>
                  {lane.marks
                    .filter(({ out }) => out)
                    .map(({ value }) => formatReading(value))
                    .join('; ') || '–'}
                </td>
                <td className="figure">{lane.figure ?? '–'}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </TableBox>
  );
});

/** What changes how the strip is shown, and the table, at its foot. */
function StripFoot({
  of,
  farMarks,
  whole,
  onWhole,
}: {
  of: StripProps;
  farMarks: boolean;
  whole: boolean;
  onWhole: (whole: boolean) => void;
}) {
  const { lanes, unit, ratios = false, onRatios, foot } = of;
  return (
    <Foot>
      <StripTable lanes={lanes} unit={unit} />
      {farMarks && (
        <Button
          size="small"
          tone="quiet"
          onPress={() => {
            onWhole(!whole);
          }}
        >
          {whole ? 'Zoom to the readings that count' : 'Show the far readings in place'}
        </Button>
      )}
      {onRatios && (
        <Button
          size="small"
          tone="quiet"
          onPress={() => {
            onRatios(!ratios);
          }}
        >
          {ratios ? 'On an even axis' : 'On an axis of equal ratios'}
        </Button>
      )}
      {foot}
    </Foot>
  );
}

/**
 * The strip: a lane per item on one axis, each reading a mark in its item's colour and shape, left-out readings
 * hollow, the mean as a tick with its interval as a bar, the margin as a band, mean and place at the lane's end.
 *
 * Keys, once it has the focus: ← → from mark to mark in value order, ↑ ↓ to the next lane, Home and End, Enter
 * chooses, Escape leaves. A table holds the same for readers.
 */
export function Strip(props: StripProps) {
  const { lanes, band, laneHeight = LANE_HEIGHT, ratios = false, spanned = lanes } = props;
  const [whole, setWhole] = useState(false);
  const near = useMemo(() => keptDomain(spanned, band, ratios), [spanned, band, ratios]);
  const full = useMemo(() => fullDomain(spanned, band, ratios), [spanned, band, ratios]);
  const farMarks = full.min < near.min || full.max > near.max;
  const placed = lanes.some(({ place }) => place !== undefined);
  return (
    <Frame>
      <Lanes $lane={laneHeight} $placed={placed}>
        <div>
          {lanes.map(({ id, name, code, mark }) => (
            <LaneHead key={id} {...{ name, code, mark, laneHeight }} />
          ))}
        </div>
        <StripStage of={props} domain={whole ? full : near} />
        <div>
          {lanes.map(({ id, figure, place }) => (
            <LaneFigure key={id} {...{ figure, place, placed, laneHeight }} />
          ))}
        </div>
      </Lanes>
      <StripFoot of={props} farMarks={farMarks} whole={whole} onWhole={setWhole} />
    </Frame>
  );
}
