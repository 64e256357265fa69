import { useMemo } from 'react';
import styled from 'styled-components';
import { cellMaps } from '../../../core/analysis/cell-maps.ts';
import type { Item, Measurand } from '../../../core/model/parts.ts';
import type { Observation } from '../../../core/observations/observation.ts';
import { CellsPicture } from '../../strip/cells-picture.tsx';

const Place = styled.div`
  margin-top: 10px;
  padding-left: 17px;
`;

/** The cells of the chosen reading as they were read, whether it counts or not. */
export function ChosenGrid({
  items,
  measurand,
  chosen,
}: {
  items: readonly Item[];
  measurand: Measurand;
  chosen: Observation;
}) {
  const grid = useMemo(
    () => cellMaps({ measurand, readings: [{ ...chosen, use: { is: 'kept' } }] }, items),
    [items, measurand, chosen],
  );
  return (
    grid && (
      <Place>
        <CellsPicture
          label="What was read"
          cells={grid}
          view="amount"
          caption={grid.unit && `What was read, in ${grid.unit}.`}
        />
      </Place>
    )
  );
}
