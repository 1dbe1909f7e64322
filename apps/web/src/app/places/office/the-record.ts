import { Component, computed, effect, inject, signal } from '@angular/core';
import type { BackupsReply, VerificationReply } from '@clear-tally/contract';
import { Api } from '../../api/api';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Mark } from '../../ui/mark';
import { Refusal } from '../../ui/refusal';
import { Waiting } from '../../ui/waiting';
import { OfficeNav } from './office-nav';
import { FileField } from '../../ui/file-field';

/** Whether everything stands as it was recorded: an owner has the whole house looked at, and keeps its end elsewhere. */
@Component({
  selector: 'ct-the-record',
  imports: [Mark, OfficeNav, Refusal, Waiting, FileField],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-office-nav />
        <h1>The record</h1>
        <p>
          Each line is tied to the one before it. Here the whole house is looked at: that no line was changed, taken out
          or slipped in, that every page shows what the lines say, and that every photo is the one that was taken. It
          takes a while in an old house; work goes on meanwhile.
        </p>
        <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
        @if (read.data(); as now) {
          <section class="stack result" [class.wrong]="now.faults.length > 0" aria-live="polite">
            @switch (now.state) {
              @case ('never') {
                <p class="soft">Nobody has looked since this server was started.</p>
              }
              @case ('running') {
                <p role="status"><b>Looking …</b> {{ now.words }}</p>
              }
              @case ('failed') {
                <p class="grave">{{ now.words }}</p>
              }
              @case ('done') {
                @if (now.faults.length === 0) {
                  <p>
                    <ct-mark kind="met"><b>Everything stands as it was recorded.</b></ct-mark>
                  </p>
                } @else {
                  <p>
                    <ct-mark kind="late"
                      ><b>{{
                        now.faults.length === 1
                          ? 'One thing is not as it was recorded.'
                          : now.faults.length + ' things are not as they were recorded.'
                      }}</b></ct-mark
                    >
                  </p>
                }
                @if (now.faults.length > 0) {
                  <ul class="faults">
                    @for (fault of now.faults; track fault.words) {
                      <li class="grave">{{ fault.words }}</li>
                    }
                  </ul>
                }
                <p class="soft small">
                  {{ now.entries }} entries, {{ now.photos }} photos, looked at
                  {{ house.dates().moment(now.finishedAt!) }}. {{ endWords(now) }}
                </p>
                @if (now.faults.length > 0) {
                  <p>
                    Change nothing now. Keep this page, stop using the house, and compare with the newest backup: what
                    was changed stands in the sentence above.
                  </p>
                }
              }
            }
          </section>
          <ct-refusal [message]="problem()" />
          <div class="acts">
            <button class="go" type="button" [disabled]="now.state === 'running'" (click)="look()">
              {{ now.state === 'running' ? 'Looking …' : 'Look at the whole house' }}
            </button>
            <ct-file
              [label]="end() ? 'With the end of entry ' + end()!.seq : 'With an end you kept'"
              accept="application/json,.json"
              (chosen)="bring($event)"
            />
          </div>
        }
        @if (backups.data(); as b) {
          <section class="stack rule" aria-label="Backups">
            <h2>Backups</h2>
            <p>
              <ct-mark [kind]="b.old ? 'late' : 'met'"
                >{{ b.newest ? 'The newest is of ' + house.dates().moment(b.newest) : 'There is none yet'
                }}{{ b.many > 1 ? ', of ' + b.many : '' }}.</ct-mark
              >
            </p>
            <p>
              <ct-mark [kind]="b.verifiedOld ? 'watch' : 'met'">{{
                b.verified
                  ? 'That of ' + house.dates().moment(b.verified) + ' was brought back and looked at.'
                  : 'None was ever brought back to look whether it is whole.'
              }}</ct-mark>
            </p>
            <p class="soft small">
              A house of your own is kept every night by itself in <span class="figure">{{ b.folder }}</span>; at any
              time with <span class="figure">npm run backup</span>. It is looked at by bringing it back into an empty
              folder: <span class="figure">npm run restore</span>. One that lies on the same disk burns with it: keep
              another elsewhere.
            </p>
          </section>
        }
        <section class="stack rule">
          <h2>The end of the chain, kept elsewhere</h2>
          <p>
            Whoever has the keys of this computer could delete the last entries, or compute the whole chain anew. Then
            only what is kept elsewhere tells. This file says where the book ends now, signed with the house’s key; it
            names no secret. Send it to yourself, or print it, once a month and before every inspection. This computer
            writes one down beside its data once a day by itself.
          </p>
          <p><a class="button" href="/api/chain-end.json" download>Save where the book ends now</a></p>
        </section>
      </div>
    </div>
  `,
  styles:
    '.result { border-left: 5px solid var(--hair); padding-left: 16px; } .result.wrong { border-color: var(--beet); } .faults { list-style: none; padding: 0; display: grid; gap: 8px; } .main { max-width: 820px; } .acts { display: flex; flex-wrap: wrap; gap: 14px; align-items: stretch; } .acts .button { margin: 0; font-size: inherit; color: var(--ink); }',
})
export class TheRecord {
  private readonly api = inject(Api);
  protected readonly house = injectHouse();
  protected readonly read = shown<VerificationReply>(signal('/api/verification'));
  protected readonly backups = shown<BackupsReply>(signal('/api/backups'));
  protected readonly problem = signal<string | null>(null);
  protected readonly end = signal<{ seq: number } | null>(null);
  private readonly running = computed(() => this.read.data()?.state === 'running');

  constructor() {
    // While it looks, the page asks how far it is.
    effect((onCleanup) => {
      if (!this.running()) return;
      const timer = setInterval(() => this.read.again(), 700);
      onCleanup(() => clearInterval(timer));
    });
  }

  protected look(): void {
    this.problem.set(null);
    this.api.verify(this.end()).subscribe({
      next: () => this.read.again(),
      error: ({ detail }: { detail: string }) => this.problem.set(detail),
    });
  }

  protected async bring(file: File): Promise<void> {
    this.problem.set(null);
    try {
      const read = JSON.parse(await file.text()) as { seq?: unknown };
      if (typeof read.seq !== 'number') throw new Error('no seq');
      this.end.set(read as { seq: number });
    } catch {
      this.problem.set(`“${file.name}” is no end of a chain. It is the file this page saves.`);
    }
  }

  protected endWords({ ends, newestEnd }: VerificationReply): string {
    return newestEnd
      ? `Against ${ends} ${ends === 1 ? 'end' : 'ends'} kept outside, the newest at entry ${newestEnd.seq}.`
      : 'No end was kept outside yet: entries deleted at its end would not be noticed.';
  }
}
