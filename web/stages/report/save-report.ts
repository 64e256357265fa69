import { MOST_CARRIED, reportFile } from '../../../core/formats/report-file.ts';
import { reportArticle } from '../../../core/formats/report-html.ts';
import type { ComposedReport } from '../../../core/report/report.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { API } from '../../app/api/client.ts';
import { LIGHT_COLOURS } from '../../ui/tokens.ts';

const asDataUrl = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => {
      resolve(reader.result as string);
    };
    reader.onerror = () => {
      reject(new Error('A photo could not be read.'));
    };
    reader.readAsDataURL(blob);
  });

async function fetched(address: string): Promise<Response> {
  const response = await fetch(address).catch(() => undefined);
  if (response === undefined) {
    throw new Error('The server is away, and the file holds what it keeps. Printing works meanwhile.');
  }
  if (!response.ok) throw new Error('The server did not give all that the file needs. Try again.');
  return response;
}

/** The pictures as they are drawn on the page. */
const picturesOn = (page: HTMLElement): Map<string, string> =>
  new Map(
    [...page.querySelectorAll<HTMLElement>('[data-picture]')].flatMap((place): [string, string][] => {
      const figure = place.querySelector('figure');
      return figure ? [[place.dataset.picture ?? '', figure.outerHTML]] : [];
    }),
  );

/**
 * The report as one file that needs no server, no script and no network.
 * @param page where its pictures are drawn
 */
export async function savedReport(
  report: ComposedReport,
  page: HTMLElement,
  { study, readings }: StudyDocument,
  lastReading: string,
): Promise<Blob> {
  const pictures = picturesOn(page);
  const files = report.parts.flatMap(({ blocks }) =>
    blocks.flatMap((block) => (block.kind === 'photos' ? block.photos.map(({ file }) => file) : [])),
  );
  const photos = new Map<string, string>();
  for (const file of study.report.hidden.includes('photos') ? [] : files) {
    photos.set(file, await asDataUrl(await (await fetched(`${API}/photos/${file}`)).blob()));
  }
  const html = reportArticle(report, study.report, {
    picture: (picture) => pictures.get(JSON.stringify(picture)),
    photo: (file) => photos.get(file) ?? '',
    lastReading,
  });
  const carried =
    readings.length > MOST_CARRIED
      ? undefined
      : {
          json: await (await fetched(`${API}/studies/${study.id}/export.json`)).text(),
          csv: await (await fetched(`${API}/studies/${study.id}/export.csv`)).text(),
        };
  const file = reportFile({ title: study.title, article: html, colours: LIGHT_COLOURS, study: carried });
  return new Blob([file], { type: 'text/html' });
}
