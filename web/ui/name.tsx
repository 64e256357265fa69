import styled from 'styled-components';
import { MarkSign } from '../strip/mark-sign.tsx';

const Line = styled.span`
  display: inline-flex;
  align-items: center;
  gap: 10px;
  min-width: 0;
  max-width: 100%;
  vertical-align: middle;
  bdi {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  svg {
    flex: none;
  }
`;

/** An item by its mark and name, in whatever direction the name is written. */
export function ItemName({ name, mark, size = 16 }: { name: string; mark: number; size?: number }) {
  return (
    <Line>
      <MarkSign mark={mark} size={size} />
      <bdi title={name}>{name}</bdi>
    </Line>
  );
}

/** An item at the head of its row. */
export const ItemHead = ({ name, mark }: { name: string; mark: number }) => (
  <th scope="row">
    <ItemName name={name} mark={mark} size={14} />
  </th>
);
