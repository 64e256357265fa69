import styled from 'styled-components';
import { API } from './api/client.ts';

const Picture = styled.img`
  max-width: 100%;
  max-height: 150px;
  border-radius: 6px;
`;

/** A photo of the study, small; a press on it shows it as it was taken. */
export const Photo = ({ file, text }: { file: string; text: string }) => (
  <a href={`${API}/photos/${file}?original=yes`} target="_blank" rel="noreferrer">
    <Picture src={`${API}/photos/${file}`} alt={text || 'A photo without words'} />
  </a>
);
