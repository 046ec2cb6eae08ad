import { LABEL_LANGUAGES, LABEL_PARTS, type LabelDesign, type LabelPart } from '@wunsch/core/label';
import { CheckField, Choice, SelectField, TextField } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';

/** A new sheet: what fits on A4 at this size, centred. */
function sheetFor({ widthMm, heightMm }: LabelDesign): NonNullable<LabelDesign['sheet']> {
  const columns = Math.max(1, Math.floor(200 / widthMm));
  const rows = Math.max(1, Math.floor(285 / heightMm));
  return {
    paper: 'A4',
    rows,
    columns,
    gapXMm: 0,
    gapYMm: 0,
    leftMm: Math.max(0, Math.round((210 - columns * widthMm) * 5) / 10),
    topMm: Math.max(0, Math.round((297 - rows * heightMm) * 5) / 10),
  };
}

/** Everything that can be chosen of a label: size, sheet, sides, symbol, languages, market. */
export function LabelOptions({
  design,
  onChange,
}: {
  design: LabelDesign;
  onChange: (part: Partial<LabelDesign>) => void;
}) {
  const words = useWords();
  const { t } = words;
  const mm = (label: string, value: number, set: (value: number) => void, max: number) => (
    <QuantityField
      label={label}
      dimension="number"
      value={value}
      onChange={(v) => v !== null && set(v)}
      min={0}
      max={max}
    />
  );
  const sideOf = (part: LabelPart) =>
    design.front.includes(part) ? 'front' : design.back.includes(part) ? 'back' : 'none';
  const put = (part: LabelPart, side: string) => {
    const order = (parts: readonly LabelPart[]) => LABEL_PARTS.filter((p) => parts.includes(p));
    const without = (parts: readonly LabelPart[]) => parts.filter((p) => p !== part);
    onChange({
      front: order(side === 'front' ? [...design.front, part] : without(design.front)),
      back: order(side === 'back' ? [...design.back, part] : without(design.back)),
      // What is put on the label is printed.
      ...(part === 'nutrition' && { nutrition: side !== 'none' }),
    });
  };
  const { sheet } = design;
  const setSheet = (part: Partial<NonNullable<LabelDesign['sheet']>>) =>
    onChange({ sheet: sheet && { ...sheet, ...part } });
  return (
    <div className="mt-3 grid gap-4">
      <div>
        <h3 className="mb-1 text-[12.5px] font-medium text-ink-2">{t('lab.market')}</h3>
        <Choice
          label={t('lab.market')}
          value={design.market}
          options={(['EU', 'US'] as const).map((value) => ({ value, label: t(`lab.market.${value}`) }))}
          onChange={(market) => onChange({ market, ...(market === 'US' && { languages: ['en'] }) })}
        />
      </div>
      <fieldset>
        <legend className="text-[12.5px] font-medium text-ink-2">{t('lab.languages')}</legend>
        {LABEL_LANGUAGES.map((language) => (
          <label key={language} className="mr-5 inline-flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              checked={design.languages.includes(language)}
              onChange={(e) =>
                onChange({
                  languages: e.target.checked
                    ? [...design.languages, language]
                    : design.languages.filter((l) => l !== language),
                })
              }
              className="size-5 accent-(--violet-text)"
            />
            {t(`lab.language.${language}`)}
          </label>
        ))}
      </fieldset>
      <div className="grid grid-cols-3 items-end gap-2">
        {mm(t('lab.width'), design.widthMm, (widthMm) => onChange({ widthMm }), 300)}
        {mm(t('lab.height'), design.heightMm, (heightMm) => onChange({ heightMm }), 420)}
        {mm(t('lab.margin'), design.marginMm, (marginMm) => onChange({ marginMm }), 50)}
      </div>
      <details>
        <summary className="min-h-11 cursor-pointer py-2 text-[13.5px] font-semibold">
          {t('lab.parts')}
        </summary>
        <div className="grid gap-1">
          {LABEL_PARTS.map((part) => (
            <div key={part} className="flex items-center gap-2 border-b border-line py-1">
              <label htmlFor={`part-${part}`} className="grow text-[13.5px]">
                {t(`part.${part}`)}
              </label>
              <select
                id={`part-${part}`}
                value={sideOf(part)}
                onChange={(e) => put(part, e.target.value)}
                className="min-h-11 rounded border border-edge bg-panel px-2 text-[13.5px]"
              >
                {(['front', 'back', 'none'] as const).map((side) => (
                  <option key={side} value={side}>
                    {t(side === 'none' ? 'lab.none.side' : `lab.${side}`)}
                  </option>
                ))}
              </select>
            </div>
          ))}
        </div>
      </details>
      <details>
        <summary className="min-h-11 cursor-pointer py-2 text-[13.5px] font-semibold">
          {t('lab.symbol')}
        </summary>
        <div className="grid grid-cols-2 items-end gap-2">
          <SelectField
            label={t('lab.symbol.kind')}
            value={design.symbol}
            onChange={(e) => onChange({ symbol: e.target.value as LabelDesign['symbol'] })}
          >
            <option value="qr">{t('lab.qr')}</option>
            <option value="datamatrix">{t('lab.datamatrix')}</option>
          </SelectField>
          {mm(t('lab.symbol.mm'), design.symbolMm, (symbolMm) => onChange({ symbolMm }), 60)}
          <SelectField
            label={t('lab.symbol.says')}
            value={design.symbolSays}
            onChange={(e) => onChange({ symbolSays: e.target.value as LabelDesign['symbolSays'] })}
          >
            {(['page', 'batch', 'text'] as const).map((says) => (
              <option key={says} value={says}>
                {t(`lab.says.${says}`)}
              </option>
            ))}
          </SelectField>
          {design.symbolSays === 'text' && (
            <TextField
              label={t('lab.says.text')}
              value={design.symbolText}
              onChange={(e) => onChange({ symbolText: e.target.value })}
              maxLength={300}
            />
          )}
        </div>
      </details>
      <details>
        <summary className="min-h-11 cursor-pointer py-2 text-[13.5px] font-semibold">
          {t('lab.sheets')}
        </summary>
        <CheckField
          label={t('lab.on-sheets')}
          checked={sheet !== null}
          onChange={(on) => onChange({ sheet: on ? sheetFor(design) : null })}
        />
        {sheet && (
          <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-4">
            <SelectField
              label={t('lab.paper')}
              value={sheet.paper}
              onChange={(e) => setSheet({ paper: e.target.value as 'A4' | 'Letter' })}
            >
              <option value="A4">A4</option>
              <option value="Letter">{t('lab.letter')}</option>
            </SelectField>
            {mm(t('lab.rows'), sheet.rows, (rows) => setSheet({ rows: Math.round(rows) }), 60)}
            {mm(t('lab.columns'), sheet.columns, (columns) => setSheet({ columns: Math.round(columns) }), 40)}
            {mm(t('lab.left'), sheet.leftMm, (leftMm) => setSheet({ leftMm }), 100)}
            {mm(t('lab.top'), sheet.topMm, (topMm) => setSheet({ topMm }), 100)}
            {mm(t('lab.gap-x'), sheet.gapXMm, (gapXMm) => setSheet({ gapXMm }), 100)}
            {mm(t('lab.gap-y'), sheet.gapYMm, (gapYMm) => setSheet({ gapYMm }), 100)}
          </div>
        )}
      </details>
    </div>
  );
}
