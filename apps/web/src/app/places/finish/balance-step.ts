import { Component, computed, input, signal } from '@angular/core';
import { formatGrams, formatPercent, type VolumeBalance, volumeBalance } from '@clear-tally/core';
import type { FinishReply } from '@clear-tally/contract';
import { untilChosen } from '../../state/until-chosen';
import { CountInput } from '../../ui/count-input';
import { FigureInput } from '../../ui/figure-input';

/** Before the first bottle: how many come out of what stands there, what is left, what is missing on the table. */
@Component({
  selector: 'ct-balance-step',
  imports: [CountInput, FigureInput],
  template: `
    <div class="row">
      <ct-count label="Bottle, mL" [value]="sizeMl()" (valueChange)="sizeMl.set($event)" />
      <ct-figure label="It weighs" unit="g per mL" [least]="0.5" [most]="2" [(value)]="gramsPerMl" />
      <ct-count label="Set out" [value]="setOut()" (valueChange)="setOut.set($event)" />
    </div>
    @if (says(); as b) {
      <table class="sheet" aria-label="Bottles before the first">
        <tbody>
          <tr>
            <th>Comes out</th>
            <td class="figure">{{ mass(finish().onHandGrams) }}</td>
            <td>{{ litres() }} at {{ gramsPerMl() }} g per mL</td>
          </tr>
          <tr>
            <th>Full bottles</th>
            <td class="figure big">{{ b.full }}</td>
            <td>of {{ sizeMl() }} mL, {{ mass(sizeMl()! * gramsPerMl()!) }} each</td>
          </tr>
          <tr>
            <th>Left over</th>
            <td class="figure">{{ mass(b.leftGrams) }}</td>
            <td>
              {{
                b.part
                  ? 'one more, filled to ' +
                    percent(b.part.share, 0) +
                    ': it tops up the others tomorrow, or is eaten first'
                  : 'not worth a bottle: eaten, and written off'
              }}
            </td>
          </tr>
          @if (setOut() !== null) {
            <tr [class.short]="b.missing > 0">
              <th>{{ b.missing > 0 ? 'Missing' : b.over > 0 ? 'Too many' : 'On the table' }}</th>
              <td class="figure big">{{ b.missing > 0 ? b.missing : b.over > 0 ? b.over : setOut() }}</td>
              <td>
                {{
                  b.missing > 0
                    ? b.missing + ' missing: set them out before the first is filled, and ' + spareWords(b)
                    : b.over > 0
                      ? 'stand there for nothing'
                      : 'enough; ' + spareWords(b)
                }}
              </td>
            </tr>
          }
        </tbody>
      </table>
    }
    <p class="soft small">
      Weigh 100 mL of it for the figure above: sauces weigh 1.00 to 1.08 g per mL. Bottles that settle are filled today,
      levelled from one of their own and closed for good tomorrow: say so when you pack.
    </p>
  `,
  styles: `
    :host {
      --figure-width: 200px;
      display: grid;
      gap: 14px;
    }
    .sheet {
      width: 100%;
      border-collapse: collapse;
      border-top: 1px solid var(--ink);
      border-bottom: 3px double var(--ink);
    }
    th {
      text-align: left;
      padding: 8px 14px 8px 0;
      white-space: nowrap;
    }
    td {
      padding: 8px 14px 8px 0;
    }
    td.figure {
      text-align: right;
      width: 120px;
      font-weight: 700;
    }
    .big {
      font-size: 34px;
    }
    tr + tr {
      border-top: 1px solid var(--hair);
    }
    .short {
      background: var(--mustard-wash);
    }
  `,
})
export class BalanceStep {
  readonly finish = input.required<FinishReply>();
  protected readonly sizeMl = untilChosen<number | null>(() => this.finish().jarSizes[0]?.sizeMl ?? 330);
  protected readonly gramsPerMl = untilChosen<number | null>(() => {
    const [size] = this.finish().jarSizes;
    return size ? Math.round((size.fillGrams / size.sizeMl) * 1000) / 1000 : 1.03;
  });
  protected readonly setOut = signal<number | null>(null);
  protected readonly mass = (grams: number): string => formatGrams(grams);
  protected readonly percent = formatPercent;
  protected readonly says = computed(() => {
    const [sizeMl, gramsPerMl] = [this.sizeMl(), this.gramsPerMl()];
    return sizeMl && sizeMl > 0 && gramsPerMl && gramsPerMl > 0
      ? volumeBalance({ massGrams: this.finish().onHandGrams, sizeMl, gramsPerMl, setOut: this.setOut() ?? 0 })
      : null;
  });
  protected readonly litres = computed(
    () => `${(this.finish().onHandGrams / (this.gramsPerMl() || 1) / 1000).toFixed(2)} L`,
  );

  protected spareWords(b: VolumeBalance): string {
    return `${b.spareProposed} spare${b.part ? ', and one for what is left' : ''}`;
  }
}
