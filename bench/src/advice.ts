import { dialInCalibration, dialInOnce } from '../../core/src/dialIn/testing/hiddenWorkshop.ts';
import { scoreFaults } from '../../core/src/faults/testing/score.ts';
import { given, median, printTable } from './table.ts';

/**
 * Advice against the trade’s rule of thumb in hidden workshops, and causes of faults found in simulated batches; any seeds:
 * `npm run bench -- advice --seed=4000 --count=300`.
 */
export function advice(): void {
  const seed = given('seed', 1);
  const count = given('count', 300);
  const runs = Array.from({ length: count }, (_, k) => dialInOnce(seed + k));
  const row = (name: string, of: typeof runs) => [
    name,
    String(of.length),
    String(median(of.map((r) => r.rule))),
    String(median(of.map((r) => r.advice))),
    `${((100 * of.filter((r) => r.advice <= 3).length) / of.length).toFixed(0)} %`,
    `${((100 * of.filter((r) => r.advice <= r.rule).length) / of.length).toFixed(0)} %`,
  ];
  printTable(
    `dialling a lot in: batches until within 0.3 of its best, seeds ${seed} to ${seed + count - 1}`,
    [
      [
        'lots made before',
        'workshops',
        'rule, median',
        'advice, median',
        'advice in 3',
        'advice never later',
      ],
      ...[0, 1, 2, 3, 4].map((n) =>
        row(
          String(n),
          runs.filter((r) => r.earlier === n),
        ),
      ),
      row('all', runs),
    ],
  );
  const c = dialInCalibration(Array.from({ length: Math.min(150, count) }, (_, k) => 5 * (seed + k)));
  printTable('what advice believes, against what is hidden', [
    ['what', 'given', 'held'],
    ['where a factor is best, four-fifths range', '80 %', `${(100 * c.ranges).toFixed(1)} %`],
    [
      'chance that the best tried is near enough',
      `${(100 * c.nearGiven).toFixed(1)} %`,
      `${(100 * c.nearHeld).toFixed(1)} %`,
    ],
  ]);
  const faults = scoreFaults(2000, seed);
  printTable(`causes found in ${faults.cases} simulated faults`, [
    ['what', 'value'],
    ['the true cause first', `${(100 * faults.first).toFixed(1)} %`],
    ['among the first three', `${(100 * faults.amongThree).toFixed(1)} %`],
    ['questions asked, mean', faults.questions.toFixed(2)],
    ['Brier score, 0 best', faults.brier.toFixed(3)],
    ...faults.calibration
      .filter((b) => b.of >= 50)
      .map((b) => [
        `given ${(100 * b.odds).toFixed(0)} %`,
        `held in ${(100 * b.held).toFixed(0)} % of ${b.of}`,
      ]),
  ]);
}
