import { htmlText } from './cells.ts';
import { STUDY_FORMAT } from '../model/study-format.ts';

/** Larger studies are exported by themselves: a page of many megabytes opens nowhere. */
export const MOST_CARRIED = 30000;

/** What a report file is made of. */
export interface ReportFile {
  title: string;
  /** The report as HTML, without scripts. */
  article: string;
  /** Values of the colours that it names. */
  colours: Readonly<Record<string, string>>;
  /** The study as JSON, and its readings as CSV; undefined where they are too large to be carried. */
  study?: { json: string; csv: string } | undefined;
  language?: string;
}

const OPENING = `<script type="application/json" id="${STUDY_FORMAT}">`;
const CLOSING = '</script>';

const STYLE = `
*{box-sizing:border-box}
body{margin:0 auto;padding:32px 24px 60px;max-width:900px;background:var(--sheet);color:var(--ink);
font:16px/1.5 "Atkinson Hyperlegible",system-ui,sans-serif}
h1{font-size:32px;line-height:1.15;margin:0 0 8px}
h2{font-size:19px;margin:34px 0 10px;padding-top:16px;border-top:1px solid var(--rule)}
p{margin:0 0 10px;max-width:72ch}
.lead{font-size:25px;line-height:1.25;font-weight:680}
.words{white-space:pre-wrap}
ul{padding-left:20px;max-width:78ch}
li{margin-bottom:8px}
figure{margin:12px 0}
figcaption,.quiet{color:var(--quiet);fill:var(--quiet);font-size:13px}
svg{max-width:100%;height:auto;overflow:visible}
svg text{fill:var(--ink);font-size:14px}
svg text.quiet{fill:var(--quiet);font-size:12.5px}
svg text.turn{fill:var(--rust)}
svg text.strong{font-weight:680}
table{border-collapse:collapse;width:100%;margin:6px 0 16px;font-size:15px}
p+table{margin-top:16px}
caption{text-align:left;font-weight:680;padding-bottom:4px}
th,td{padding:5px 8px;text-align:left;vertical-align:baseline}
th{font-size:13px;color:var(--quiet)}
tbody th{font-size:15px;font-weight:600;color:var(--ink)}
tbody tr{border-top:1px solid var(--rule)}
.pairs{display:grid;grid-template-columns:repeat(auto-fit,minmax(min(380px,100%),1fr));gap:20px 32px;align-items:start}
.pairs>div{min-width:0;break-inside:avoid}
.figure{text-align:right;white-space:nowrap;font-variant-numeric:tabular-nums}
td svg,th svg{vertical-align:-2px;margin-right:6px}
img{max-width:100%}
footer{margin-top:40px;font-size:14px;color:var(--quiet)}
a{color:var(--fern)}
@media print{body{padding:0;max-width:none}.pairs{grid-template-columns:1fr 1fr}thead{display:table-header-group}tr,figure,li{break-inside:avoid}
h2,caption{break-after:avoid}footer{display:none}}
@page{margin:16mm 15mm}
`;

/**
 * One file to hand on: the report, its pictures and the study's data, without server, script or network.
 * @returns a whole HTML document
 */
export function reportFile({ title, article, colours, study, language = 'en' }: ReportFile): string {
  const variables = Object.entries(colours)
    .map(([name, value]) => `${name}:${value}`)
    .join(';');
  const csv = study && `data:text/csv;charset=utf-8,${encodeURIComponent(study.csv)}`;
  return `<!DOCTYPE html>
<html lang="${htmlText(language)}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width,initial-scale=1">
<title>${htmlText(title)}</title>
<style>:root{${variables};color-scheme:light}${STYLE}</style>
</head>
<body>
<main>
${article}
</main>
${
  study && csv
    ? `<footer><p><a href="${csv}" download="readings.csv">The readings as CSV</a>. The whole study is inside this file: Brackenridge imports it again.</p></footer>
${OPENING}${study.json.replace(/</g, '\\u003c')}${CLOSING}`
    : '<footer><p>The study is too large to be carried in this file.</p></footer>'
}
</body>
</html>
`;
}

/**
 * The study inside a report file.
 * @returns its JSON; undefined where there is none
 */
export function studyInReport(html: string): string | undefined {
  const start = html.lastIndexOf(OPENING);
  if (start === -1) return undefined;
  const end = html.indexOf(CLOSING, start);
  return end === -1 ? undefined : html.slice(start + OPENING.length, end);
}
