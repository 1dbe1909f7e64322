import { Component, computed, effect, signal, untracked, viewChild } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RouterLink } from '@angular/router';
import { GONE_SAID, GONE_WORDS, jarCode, takeJars } from '@clear-tally/core';
import type { CustomersReply, JarsReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { takesScans } from '../../state/scans';
import { shown } from '../../state/shown';
import { Choice } from '../../ui/choice';
import { CodeField } from '../../ui/code-field';
import { CountInput } from '../../ui/count-input';
import { Mark } from '../../ui/mark';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { TallyStrokes } from '../../ui/tally-strokes';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';
import { Waiting } from '../../ui/waiting';
import { PackNav } from '../pack/pack-nav';
import { Orders, type Picked } from './orders';
import { freeOf, type InCrate, jarsIn, put, scanInto } from './crate';

type Where = 'customer' | 'room' | (typeof GONE_SAID)[number];

/** The crate fills as jars are scanned; then it goes somewhere, and the book knows where. */
@Component({
  selector: 'ct-dispatch',
  imports: [
    Choice,
    CodeField,
    CountInput,
    FormField,
    Mark,
    Orders,
    PackNav,
    RecordButton,
    Refusal,
    RouterLink,
    Select,
    TallyStrokes,
    TextField,
    TypedBeforeNote,
    Waiting,
  ],
  templateUrl: './dispatch.html',
  styleUrl: './dispatch.less',
})
export class Dispatch {
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly read = shown<JarsReply>(signal('/api/jars'));
  private readonly customers = shown<CustomersReply>(signal('/api/customers'));
  private readonly box = viewChild(CodeField);
  protected readonly typed = signal('');
  protected readonly said = signal<{ readonly words: string; readonly ok: boolean } | null>(null);
  protected readonly form = recordingForm('crate', {
    fields: {
      crate: [] as readonly InCrate[],
      customerId: null as string | null,
      roomId: null as string | null,
      where: 'customer' as Where,
      note: '',
      order: null as { readonly id: string; readonly code: string } | null,
    },
    recorded: ([recorded]) => {
      const facts = recorded?.facts ?? {};
      this.sent.set(typeof facts['code'] === 'string' ? { id: this.dispatchId, code: facts['code'] } : null);
      this.said.set({ words: `${String(facts['count'] ?? '')} jars: it stands in the book.`, ok: true });
      this.crate.set([]);
      this.note.set('');
      this.form.values.order.set(null);
    },
  });
  protected readonly crate = this.form.values.crate;
  protected readonly where = this.form.values.where;
  protected readonly note = this.form.values.note;
  protected readonly customerId = this.form.values.customerId;
  protected readonly roomId = this.form.values.roomId;
  /** The delivery that was sent last, for its note. */
  protected readonly sent = signal<{ readonly id: string; readonly code: string } | null>(null);
  private dispatchId = '';
  /** "12 of run X": how many, by run. */
  protected readonly many = signal<Readonly<Record<string, number | null>>>({});

  private readonly early = signal<readonly string[]>([]);
  protected readonly stock = computed(() => this.read.data()?.runs ?? []);
  protected readonly rows = computed(() =>
    this.stock()
      .flatMap((run) => bySize(run))
      .map((run) => {
        const free = freeOf(run, this.crate());
        return {
          run,
          key: sizeKey(run),
          free: free.reduce((sum, { first, last }) => sum + last - first + 1, 0),
          places: [...new Set(run.stretches.map(({ where }) => where))].join(', '),
          sizes: [...new Set(run.stretches.map(({ sizeMl }) => `${sizeMl} mL`))].join(', '),
        };
      }),
  );
  protected readonly count = computed(() => jarsIn(this.crate()));
  protected readonly lines = computed(() =>
    this.crate().map((one) => ({
      ...one,
      count: one.last - one.first + 1,
      words: `${jarCode(one.run, one.first).text}${one.last > one.first ? ` to ${jarCode(one.run, one.last).text.slice(-7)}` : ''}`,
    })),
  );
  protected readonly customerOptions = computed(() =>
    (this.customers.data()?.customers ?? [])
      .filter(({ closed }) => !closed)
      .map(({ customerId, name, address }) => ({ id: customerId, label: name, detail: address ?? '' })),
  );
  protected readonly roomOptions = computed(() =>
    (this.read.data()?.rooms ?? []).map(({ id, name }) => ({ id, label: name })),
  );
  protected readonly ways: readonly (readonly [Where, string])[] = [
    ['customer', 'To a customer'],
    ['room', 'To another place'],
    ...GONE_SAID.map((how) => [how, GONE_WORDS[how]] as const),
  ];
  protected readonly words = computed(() => {
    const jars = `${this.count()} ${this.count() === 1 ? 'jar' : 'jars'}`;
    const customer = this.customerOptions().find(({ id }) => id === this.customerId())?.label;
    const room = this.roomOptions().find(({ id }) => id === this.roomId())?.label;
    const where = this.where();
    if (where === 'customer') return `Send ${jars}${customer ? ` to ${customer}` : ''}`;
    if (where === 'room') return `Move ${jars}${room ? ` to ${room}` : ''}`;
    return `${jars} ${GONE_WORDS[where]}`;
  });

  constructor() {
    takesScans((code) => this.scan(code));
    effect(() => {
      if (!this.read.data() || this.early().length === 0) return;
      untracked(() => {
        const codes = this.early();
        this.early.set([]);
        codes.forEach((code) => this.into(code));
      });
    });
  }

  /** True where it was a jar's code: then it is nobody else's. */
  private scan(code: string): boolean {
    this.into(code);
    return true;
  }

  protected type(): void {
    if (!this.typed().trim()) return;
    if (this.into(this.typed())) this.typed.set('');
    this.box()?.focus();
  }

  /** What comes before the list of jars is here waits for it, in its order. */
  private into(code: string): boolean {
    if (!this.read.data()) {
      this.early.update((codes) => [...codes, code]);
      this.said.set({ words: 'Read; it goes in as soon as the list of jars is here.', ok: true });
      return true;
    }
    const added = scanInto(this.crate(), this.stock(), code);
    this.crate.set(added.crate);
    this.said.set({ words: added.said, ok: added.ok });
    return added.ok;
  }

  /** The oldest serials of a run. */
  protected take(run: JarsReply['runs'][number]): void {
    const wanted = this.many()[sizeKey(run)] ?? 0;
    const taken = takeJars(freeOf(run, this.crate()), wanted);
    const got = taken.reduce((sum, { first, last }) => sum + last - first + 1, 0);
    this.crate.set(put(this.crate(), run, taken));
    this.many.set({ ...this.many(), [sizeKey(run)]: null });
    this.said.set(
      got < wanted
        ? { words: `${wanted} were asked for; ${got} of ${run.code} stand in the house, and are in.`, ok: false }
        : { words: `${got} jars of ${run.code} are in.`, ok: true },
    );
  }

  /** The jars of a pick list, in its order, for who ordered them. */
  protected fromOrder({ orderId, code, customerId, jars, lacks }: Picked): void {
    for (const { runLotId, first, last } of jars) {
      const run = this.stock().find(({ lotId }) => lotId === runLotId);
      if (run) this.crate.set(put(this.crate(), run, [{ first, last }]));
    }
    this.where.set('customer');
    this.customerId.set(customerId);
    this.form.values.order.set({ id: orderId, code });
    this.said.set(
      lacks > 0
        ? { words: `${code} is in the crate as far as it is there: ${lacks} are missing.`, ok: false }
        : { words: `All of ${code} is in the crate.`, ok: true },
    );
  }

  protected setMany(runId: string, count: number | null): void {
    this.many.set({ ...this.many(), [runId]: count });
  }

  protected out(index: number): void {
    this.crate.set(this.crate().filter((_, i) => i !== index));
  }

  protected record(): void {
    const jars = this.crate().map(({ runLotId, first, last }) => ({ runLotId, first, last }));
    const [where, note] = [this.where(), this.note().trim() || null];
    if (where === 'customer') {
      this.dispatchId = newId();
      this.form.record(
        this.form.entry('jars.dispatch', {
          dispatchId: this.dispatchId,
          customerId: this.customerId()!,
          jars,
          note,
          ...(this.form.values.order() ? { orderId: this.form.values.order()!.id } : {}),
        }),
      );
    } else if (where === 'room') this.form.record(this.form.entry('jars.move', { jars, roomId: this.roomId()! }));
    else this.form.record(this.form.entry('jars.out', { jars, how: where, note }));
  }
}

type Run = JarsReply['runs'][number];

/** A run with jars of two sizes stands there twice: somebody takes so many of one of them. */
function bySize(run: Run): Run[] {
  const sizes = [...new Set(run.stretches.map(({ sizeMl }) => sizeMl))];
  return sizes.map((size) => ({ ...run, stretches: run.stretches.filter(({ sizeMl }) => sizeMl === size) }));
}

const sizeKey = (run: Run): string => `${run.lotId} ${run.stretches[0]?.sizeMl ?? ''}`;
