import { CdkDrag, CdkDragHandle, type CdkDragDrop, CdkDropList, moveItemInArray } from '@angular/cdk/drag-drop';
import { Component, ElementRef, inject, input, output } from '@angular/core';
import { SCALE_BY, SCALE_WORDS, type ScaleBy } from '@clear-tally/core';
import { TextField } from '../../../ui/text-field';
import { type Draft, type DraftLine, emptyLine, newKey } from '../draft/draft';
import { type ReadDraft, saidAt, type Said } from '../draft/readDraft';
import { Tick } from '../../../ui/tick';
import { Select } from '../../../ui/select';

/** The lines of a formula: written, moved by mouse or arrow keys, put into variants. */
@Component({
  selector: 'ct-lines-editor',
  imports: [CdkDrag, CdkDragHandle, CdkDropList, TextField, Tick, Select],
  templateUrl: './lines-editor.html',
  styleUrl: './editor.less',
})
export class LinesEditor {
  readonly draft = input.required<Draft>();
  readonly reading = input.required<ReadDraft | null>();
  /** A change, with the name of what is being typed: changes of one name in a row are one step back. */
  readonly edit = output<{ field: string; change: Partial<Draft> }>();
  private readonly page = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly scaleBy = SCALE_BY.map((key) => ({ key, words: SCALE_WORDS[key] }));

  protected said(field: string): Said {
    const reading = this.reading();
    return reading ? saidAt(reading, field) : { say: null, problem: null };
  }

  protected editLine(key: string, change: Partial<DraftLine>): void {
    this.change(`line.${key}.${Object.keys(change)[0]}`, {
      lines: this.draft().lines.map((line) => (line.key === key ? { ...line, ...change } : line)),
    });
  }

  protected addLine(): void {
    const line = emptyLine();
    this.change('line+', { lines: [...this.draft().lines, line] });
    this.focusLater(`[data-line='${line.key}'] input`);
  }

  protected dropLine(key: string): void {
    this.change('line-', { lines: this.draft().lines.filter((line) => line.key !== key) });
  }

  /** A line that turns out to be what the formula is about. */
  protected makeProduce(line: DraftLine): void {
    const produce = this.draft().produce.filter((row) => row.material.trim() !== '' || row.amount.trim() !== '');
    this.change('produce+', {
      produce: [...produce, { key: newKey(), material: line.material, amount: line.amount }],
      lines: this.draft().lines.filter((one) => one.key !== line.key),
    });
  }

  protected dropped(event: CdkDragDrop<unknown>): void {
    this.move(event.previousIndex, event.currentIndex);
  }

  protected moveByKey(event: KeyboardEvent, index: number, key: string): void {
    const to = event.key === 'ArrowUp' ? index - 1 : event.key === 'ArrowDown' ? index + 1 : null;
    if (to === null) return;
    event.preventDefault();
    if (to < 0 || to >= this.draft().lines.length) return;
    this.move(index, to);
    this.focusLater(`[data-line='${key}'] .handle`);
  }

  private move(from: number, to: number): void {
    if (from === to) return;
    const lines = [...this.draft().lines];
    moveItemInArray(lines, from, to);
    this.change('line move', { lines });
  }

  protected inVariant(line: DraftLine, variant: string): boolean {
    return line.variants === null || line.variants.includes(variant);
  }

  protected toggleVariant(line: DraftLine, variant: string): void {
    const all = this.draft().variants;
    const now = line.variants ?? all;
    const next = now.includes(variant)
      ? now.filter((one) => one !== variant)
      : all.filter((one) => one === variant || now.includes(one));
    this.editLine(line.key, { variants: next.length === all.length ? null : next });
  }

  /** "With and without" an ingredient, in one tap. */
  protected withAndWithout(line: DraftLine): void {
    const name = line.material.trim().toLowerCase();
    if (!name) return;
    const [yes, no] = [`with ${name}`, `without ${name}`];
    this.change('variants', {
      variants: [...new Set([...this.draft().variants, yes, no])],
      lines: this.draft().lines.map((one) => (one.key === line.key ? { ...one, variants: [yes] } : one)),
    });
  }

  protected dropVariants(): void {
    this.change('variants', { variants: [], lines: this.draft().lines.map((line) => ({ ...line, variants: null })) });
  }

  protected chooseScaleBy(key: string, scaleBy: string): void {
    this.editLine(key, { scaleBy: scaleBy as ScaleBy });
  }

  private change(field: string, change: Partial<Draft>): void {
    this.edit.emit({ field, change });
  }

  private focusLater(selector: string): void {
    setTimeout(() => this.page.nativeElement.querySelector<HTMLElement>(selector)?.focus());
  }
}
