import { Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { BASIS_WORDS, formatPercent, type SaltBasis } from '@clear-tally/core';
import type { FormulasReply } from '@clear-tally/contract';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { TextField } from '../../ui/text-field';
import { Waiting } from '../../ui/waiting';
import { STYLE_WORDS } from './draft/draft';
import { Tick } from '../../ui/tick';

/** The formula book: searched, with what is open, retired or outside the scope said at its line. */
@Component({
  selector: 'ct-formulas',
  imports: [RouterLink, TextField, Waiting, Tick],
  template: `
    <div class="page">
      <div class="main stack">
        <div class="head">
          <h1>Formulas</h1>
          <p class="row">
            @if (rights.isOwner()) {
              <a class="button go" routerLink="/formulas/new">New formula</a
              ><a class="button" routerLink="/formulas/take-in">Take a recipe in</a>
            }
            <a class="button" href="/api/formulas.json">The book as a file</a>
          </p>
        </div>
        @if (read.data(); as reply) {
          <div class="row find">
            <ct-text
              label="Find"
              placeholder="name, school, number"
              [value]="search()"
              (valueChange)="search.set($event)"
            />
            @if (retired() > 0) {
              <ct-tick [(value)]="withRetired">show {{ retired() }} retired</ct-tick>
            }
          </div>
          <table class="book">
            <thead>
              <tr>
                <th>No.</th>
                <th>Formula</th>
                <th>School</th>
                <th class="right">Salt</th>
                <th class="right">Usual days</th>
                <th class="right">Batches</th>
              </tr>
            </thead>
            <tbody>
              @for (formula of rows(); track formula.formulaId) {
                <tr [class.gone]="formula.retired !== null">
                  <td class="figure">{{ formula.number }}</td>
                  <td>
                    <a class="big" [routerLink]="['/formulas', formula.formulaId]">{{ formula.name }}</a>&ngsp;<span
                      class="soft small"
                      >version {{ formula.version }}</span
                    >
                    @if (formula.holes > 0) {
                      <span class="mustard small">&ngsp;· {{ formula.holes }} open</span>
                    }
                    @if (formula.retired !== null) {
                      <span class="soft small">&ngsp;· retired</span>
                    }
                    @if (formula.outsideScope) {
                      <span class="beet small">&ngsp;· noted only, outside the scope</span>
                    }
                  </td>
                  <td>{{ formula.styleWords }}</td>
                  <td class="right">
                    <span class="figure">{{ formula.salt }}</span>&ngsp;<span class="soft small">{{
                      formula.basisWords
                    }}</span>
                  </td>
                  <td class="right figure">{{ formula.usualDays }}</td>
                  <td class="right figure">{{ formula.batches }}</td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="6" class="soft">
                    {{
                      reply.formulas.length === 0
                        ? 'The book is empty. Write a first formula, or take in a recipe as it stands in a notebook.'
                        : 'Nothing in the book fits that.'
                    }}
                  </td>
                </tr>
              }
            </tbody>
          </table>
          <p class="soft small">
            “Per cent salt” has four meanings. Each formula says its own; the bench shows all of them, and where they
            even out.
          </p>
        }
        <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
      </div>
    </div>
  `,
  styles: `
    .big {
      display: inline-block;
      padding: 8px 0;
      font-size: 20px;
      font-weight: 700;
      color: var(--ink);
    }
    .head {
      display: flex;
      justify-content: space-between;
      align-items: center;
      gap: 16px;
    }
    .find ct-text {
      width: 320px;
    }
    .tick {
      display: inline-flex;
      gap: 8px;
      align-items: center;
      margin-top: 34px;
      color: var(--ink);
    }
    .tick input {
      width: 24px;
      height: 24px;
      accent-color: var(--brine);
    }
    .gone td,
    .gone a {
      color: var(--soft);
    }
  `,
})
export class Formulas {
  protected readonly read = shown<FormulasReply>(signal('/api/formulas'));
  protected readonly rights = injectRights();
  protected readonly search = signal('');
  protected readonly withRetired = signal(false);
  protected readonly retired = computed(
    () => (this.read.data()?.formulas ?? []).filter((formula) => formula.retired !== null).length,
  );
  protected readonly rows = computed(() => {
    const words = this.search().toLowerCase().split(/\s+/).filter(Boolean);
    return (this.read.data()?.formulas ?? [])
      .map((formula) => ({
        ...formula,
        styleWords: STYLE_WORDS[formula.style],
        salt: formula.saltFraction === null ? 'open' : formatPercent(formula.saltFraction, 1),
        basisWords: formula.saltBasis === null ? '' : BASIS_WORDS[formula.saltBasis as SaltBasis],
      }))
      .filter(
        (formula) =>
          (this.withRetired() || formula.retired === null) &&
          words.every((word) => `${formula.number} ${formula.name} ${formula.styleWords}`.toLowerCase().includes(word)),
      );
  });
}
