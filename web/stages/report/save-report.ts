import { reportFile } from '../../../core/formats/report-file.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { API } from '../../app/api/client.ts';
import { LIGHT_COLOURS } from '../../ui/tokens.ts';

/** Larger studies are exported by themselves: a page of many megabytes opens nowhere. */
const MOST_CARRIED = 30000;

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

/** The report as it is on the page, as one file that needs no server, no script and no network. */
export async function savedReport(article: HTMLElement, { study, readings }: StudyDocument): Promise<Blob> {
  const copy = article.cloneNode(true) as HTMLElement;
  for (const element of copy.querySelectorAll('[data-unprinted]')) element.remove();
  for (const element of copy.querySelectorAll('[tabindex],[role=region]')) {
    element.removeAttribute('tabindex');
    element.removeAttribute('role');
  }
  for (const element of copy.querySelectorAll('[id]')) element.removeAttribute('id');
  for (const image of copy.querySelectorAll('img')) {
    image.src = await asDataUrl(await (await fetched(image.src)).blob());
  }
  const html = copy.innerHTML;
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
