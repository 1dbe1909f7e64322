import { Component, input } from '@angular/core';
import { formatGrams } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';

/** What is weighed in so far, with its lots. */
@Component({
  selector: 'ct-weighed-list',
  template: `
    @if (rows().length > 0) {
      <table class="book">
        <thead><tr><th>Weighed in</th><th>Lot</th><th class="right">Mass</th><th>Supplier’s lot</th><th>When</th><th>By</th></tr></thead>
        <tbody>@for (row of rows(); track row.entryId) {
          <tr><td>{{ row.materialName }}</td><td class="figure">{{ row.lotCode }}</td><td class="right figure">{{ mass(row.grams) }}</td><td class="figure">{{ row.supplierLotCode }}</td><td class="figure">{{ house.dates().time(row.at) }}</td><td class="figure">{{ row.by }}</td></tr>
        }</tbody>
      </table>
    }
  `,
})
export class WeighedList {
  readonly rows = input.required<MakeReply['ingredients']>();
  protected readonly house = injectHouse();
  protected readonly mass = (grams: number): string => formatGrams(grams);
}
