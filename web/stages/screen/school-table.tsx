import type { Measurand } from '../../../core/model/parts.ts';
import { itemsInOrder } from '../../../core/model/in-order.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { formatNumber } from '../../../core/quantity/format.ts';
import { screeningRule } from '../../../core/screening/index.ts';
import { useAnalysis, useSchools } from '../../app/api/analysis.ts';
import { patchPart } from '../../app/api/studies.ts';
import { tellDone, tellFailure } from '../../app/tell.ts';
import { settingFigures } from '../../strip/lanes.ts';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { Button } from '../../ui/button.tsx';
import { Scroll, Table } from '../../ui/table.tsx';

/** Every school of screening side by side: what it leaves out, the means that result, who is first. */
export function SchoolTable({
  document,
  measurand,
  settingKey,
}: {
  document: StudyDocument;
  measurand: Measurand;
  settingKey: string;
}) {
  const ranked = itemsInOrder(document).filter(({ role }) => role !== 'control');
  const className = ranked[0]?.class ?? '';
  const items = ranked.filter((item) => item.class === className);
  const { data: schools } = useSchools(document, measurand.id, className, settingKey);
  const { data: analysis } = useAnalysis(document, measurand.id, settingKey, { resamples: 0 });
  if (!schools || !analysis) return <p>Comparing the rules…</p>;
  const { result } = settingFigures(analysis);
  const inForce = schools.find(({ rule }) => rule === measurand.rule.name);
  const use = (name: Measurand['rule']['name']) => {
    const before = measurand.rule;
    patchPart('measurands', measurand, { rule: { ...before, name, parameter: null } })
      .then((now) => {
        tellDone(`${screeningRule(name).label} is in force now.`, () =>
          patchPart('measurands', now, { rule: before }),
        );
      })
      .catch(tellFailure);
  };
  return (
    <Scroll aria-label="What each rule would do">
      <Table>
        <thead>
          <tr>
            <th scope="col">Rule</th>
            <th scope="col" className="figure">
              leaves out
            </th>
            {items.map(({ id, code, mark, name }) => (
              <th key={id} scope="col" className="figure" aria-label={name}>
                <MarkSign mark={mark} size={13} /> {code}
              </th>
            ))}
            <th scope="col">first by mean</th>
            <th scope="col">
              <span hidden>use it</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {schools.map(({ rule, leftOut, means, first, notApplied }) => (
            <tr key={rule} data-current={rule === measurand.rule.name || undefined}>
              <th scope="row">{screeningRule(rule).label}</th>
              <td className="figure">
                {notApplied === items.length ? 'n too small' : leftOut === 0 ? '–' : formatNumber(leftOut, 0)}
              </td>
              {means.map((mean, i) => {
                const differs = mean !== null && inForce && mean !== inForce.means[i];
                return (
                  <td
                    key={items[i]?.id ?? i}
                    className="figure"
                    style={differs ? { color: 'var(--rust)', fontWeight: 640 } : {}}
                  >
                    {result(mean)}
                  </td>
                );
              })}
              <td>
                <bdi>{items[first]?.name ?? '–'}</bdi>
              </td>
              <td className="figure">
                {rule === measurand.rule.name ? (
                  'in force'
                ) : (
                  <Button
                    size="small"
                    tone="quiet"
                    aria-label={`Use ${screeningRule(rule).label}`}
                    onPress={() => {
                      use(rule);
                    }}
                  >
                    Use
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}
