import { lazy, useMemo } from 'react';
import styled from 'styled-components';
import type { ReportBlock, ReportPicture } from '../../../core/report/report.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { API } from '../../app/api/client.ts';
import { useAnalysis, useOverLevels } from '../../app/api/analysis.ts';
import { ReportTableView } from '../../app/report-table.tsx';
import { TakePicture } from '../../app/take.tsx';
import { Later } from '../../ui/later.tsx';
import { ReportLevels, ReportStrip } from '../../strip/report-pictures.tsx';

// Drawn where there is a grid.
const ReportCells = lazy(async () => ({
  default: (await import('../../strip/report-cells.tsx')).ReportCells,
}));

const Lead = styled.p`
  font-size: var(--size-25);
  font-weight: 680;
  line-height: 1.25;
  text-wrap: balance;
  max-width: 40ch;
`;

const Text = styled.p`
  max-width: 72ch;
  text-wrap: pretty;
  & + &,
  .lead + & {
    margin-top: 10px;
  }
  & + div {
    margin-top: 16px;
  }
`;

const List = styled.ul`
  display: grid;
  gap: 8px;
  max-width: 78ch;
  margin: 6px 0 10px;
  padding-left: 18px;
  list-style: disc;
  li::marker {
    color: var(--fern);
  }
`;

const Photos = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(260px, 100%), 1fr));
  gap: 18px;
  figure {
    margin: 0;
    break-inside: avoid;
  }
  img {
    width: 100%;
    border-radius: var(--corner);
  }
  figcaption {
    font-size: var(--size-13);
    color: var(--quiet);
  }
`;

interface PictureProps<Of extends ReportPicture['of']> {
  document: StudyDocument;
  picture: Extract<ReportPicture, { of: Of }>;
  caption: string;
  pairAlpha: number;
}

/** What is drawn from the readings of one measurand at one setting. */
function SettingBlock({ document, picture, caption, pairAlpha }: PictureProps<'strip' | 'cells'>) {
  const { measurandId, settingKey } = picture;
  const measurand = document.measurands.find(({ id }) => id === measurandId);
  // The same question as the ranking asks, so that both say the same.
  const { data: analysis } = useAnalysis(document, measurandId, settingKey, { method: undefined, pairAlpha });
  if (!measurand || !analysis) return <p>Drawing…</p>;
  return (
    <TakePicture what={picture.of === 'cells' ? `${measurand.name}, cell by cell` : measurand.name}>
      {picture.of === 'strip' ? (
        <ReportStrip document={document} picture={picture} caption={caption} analysis={analysis} />
      ) : (
        <Later waiting={<p>Drawing…</p>}>
          <ReportCells document={document} picture={picture} caption={caption} analysis={analysis} />
        </Later>
      )}
    </TakePicture>
  );
}

function LevelsBlock({ document, picture, caption, pairAlpha }: PictureProps<'levels'>) {
  const { measurandId, factorId, seriesKey } = picture;
  const { data: over } = useOverLevels(
    document,
    measurandId,
    useMemo(() => ({ factorId, key: seriesKey }), [factorId, seriesKey]),
    { pairAlpha },
  );
  if (!over) return <p>{caption}</p>;
  return (
    <TakePicture what={`${over.measurand.name} over ${over.factor.name}`}>
      <ReportLevels picture={picture} over={over} />
    </TakePicture>
  );
}

/** One block of the report. */
export function Block({
  block,
  document,
  pairAlpha,
}: {
  block: ReportBlock;
  document: StudyDocument;
  pairAlpha: number;
}) {
  if (block.kind === 'lead') return <Lead className="lead">{block.text}</Lead>;
  if (block.kind === 'text') {
    return (
      <Text>
        <bdi>{block.text}</bdi>
      </Text>
    );
  }
  if (block.kind === 'list') {
    return (
      <List>
        {block.items.map((item, i) => (
          <li key={`${String(i)}/${item}`}>
            <bdi>{item}</bdi>
          </li>
        ))}
      </List>
    );
  }
  if (block.kind === 'table') return <ReportTableView table={block.table} />;
  if (block.kind === 'photos') {
    return (
      <Photos>
        {block.photos.map(({ noteId, file, caption }) => (
          <figure key={noteId}>
            <img src={`${API}/photos/${file}`} alt={caption || 'A photo without a caption'} />
            <figcaption>
              <bdi>{caption}</bdi>
            </figcaption>
          </figure>
        ))}
      </Photos>
    );
  }
  const { picture, caption } = block;
  return (
    // By this the file to hand on finds the picture.
    <div data-picture={JSON.stringify(picture)}>
      {picture.of === 'levels' ? (
        <LevelsBlock document={document} picture={picture} caption={caption} pairAlpha={pairAlpha} />
      ) : (
        <SettingBlock document={document} picture={picture} caption={caption} pairAlpha={pairAlpha} />
      )}
    </div>
  );
}
