import { Printer } from 'lucide-react';
import { useParams } from 'react-router';
import { drawingSVG, qrcode } from 'bwip-js/browser';
import { claimPercent, recipeFigures } from '@wunsch/core/recipe';
import { useBatch } from '../../shell/inhand.ts';
import { useSession } from '../../shell/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { useWords } from '../../words/words.tsx';
import { bowlLines, useIngredients } from '../recipe/index.ts';

/** The label of one moulding: what is in the bar as it was made, allergens in bold, and a code that opens the batch's page. */
export default function LabelPage() {
  const words = useWords();
  const { t } = words;
  const { batchId, stepId } = useParams();
  const { data: view } = useBatch(batchId ?? null);
  const { workshop } = useSession();
  const ingredients = useIngredients();
  if (!view || ingredients.size === 0) return <p className="p-6 text-ink-3">{t('loading')}</p>;
  const step = view.steps.find((s) => s.id === stepId);
  if (!step) return <p className="p-6">{t('not-found')}</p>;
  const lines = bowlLines(view, ingredients);
  const figures = recipeFigures(lines);
  const byName = new Map<string, { massMg: number; allergens: readonly string[] }>();
  for (const l of lines)
    byName.set(l.ingredient.name, {
      massMg: (byName.get(l.ingredient.name)?.massMg ?? 0) + l.massMg,
      allergens: l.ingredient.allergens,
    });
  const order = [...byName].sort((a, b) => b[1].massMg - a[1].massMg);
  const percent = (x: number) => `${words.number(claimPercent(x), 1)} %`;
  const code = step.details.barCode ?? view.batch.code;
  const qr = qrcode(
    { bcid: 'qrcode', text: `${window.location.origin}/batch/${view.batch.id}`, scale: 2 },
    drawingSVG(),
  );
  const brought = view.allergens.filter((a) => !figures.allergens.includes(a));
  return (
    <div className="p-4">
      <div className="no-print mb-4 flex items-center gap-3">
        <h1 className="text-[26px]">{t('label.title', { code })}</h1>
        <Button look="main" icon={<Printer size={17} aria-hidden="true" />} onClick={() => window.print()}>
          {t('label.print')}
        </Button>
        <span className="text-[12.5px] text-ink-3">{t('label.law')}</span>
      </div>
      <article
        className="bg-white p-[4mm] text-[#1E1512]"
        style={{ width: '90mm', minHeight: '55mm', border: '0.3mm solid #1E1512', fontSize: '8.5pt' }}
        aria-label={t('label.title', { code })}
      >
        <div style={{ display: 'flex', justifyContent: 'space-between', gap: '4mm' }}>
          <div>
            <div style={{ fontSize: '7.5pt' }}>{workshop.name}</div>
            <div className="num" style={{ fontSize: '15pt', lineHeight: 1.1 }}>
              {view.origins.length === 1 ? view.lot.name : t('label.blend')}
            </div>
            <div>
              {view.origins.length === 1 && [view.lot.harvest, view.lot.country].filter(Boolean).join(', ')}
            </div>
            <div className="num" style={{ fontSize: '12pt', marginTop: '1mm' }}>
              {t('label.cacao', {
                percent: percent(workshop.cacaoSchool === 'all' ? figures.cacaoAll : figures.cacaoBeans),
              })}
            </div>
          </div>
          <div
            style={{ width: '20mm', height: '20mm' }}
            role="img"
            aria-label={t('label.qr')}
            dangerouslySetInnerHTML={{ __html: qr }}
          />
        </div>
        <p style={{ marginTop: '2mm' }}>
          {t('label.ingredients')}{' '}
          {order.map(([name, { allergens }], i) => (
            <span key={name}>
              {i > 0 && ', '}
              {allergens.length > 0 ? (
                <strong style={{ textTransform: 'uppercase' }}>{words.word('ingredient', name)}</strong>
              ) : (
                words.word('ingredient', name)
              )}
            </span>
          ))}
          {order.length === 0 && t('label.unknown')}.
          {brought.length > 0 && (
            <>
              {' '}
              {t('label.contains')}{' '}
              <strong style={{ textTransform: 'uppercase' }}>
                {brought.map((a) => words.word('allergen', a)).join(', ')}
              </strong>
              .
            </>
          )}
        </p>
        <p style={{ marginTop: '1mm' }}>
          {t('figures.all')} {percent(figures.cacaoAll)} · {t('figures.beans')} {percent(figures.cacaoBeans)}
        </p>
        <div style={{ display: 'flex', justifyContent: 'space-between', marginTop: '2mm' }}>
          <strong className="num" style={{ fontSize: '12pt' }}>
            {words.mass(step.details.fillMg ?? view.batch.barMg)}
          </strong>
          <span>
            {t('label.code')} <strong>{code}</strong>
          </span>
          <span>
            {step.details.bestBefore &&
              t('label.best-before', { day: words.day(`${step.details.bestBefore}T12:00:00Z`) })}
          </span>
        </div>
        <p style={{ fontSize: '7pt', marginTop: '1mm' }}>{t('label.storage')}</p>
      </article>
    </div>
  );
}
