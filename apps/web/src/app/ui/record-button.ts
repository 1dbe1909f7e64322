import {
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  type OnInit,
  signal,
  ViewContainerRef,
  type WritableSignal,
} from '@angular/core';
import type { RecordingForm } from '../state/form';
import { SAYS_WHEN } from '../state/when';
import { WhenLine } from './when-line';

/** What is not there yet, in words; nothing where it is there. */
export type Need = string | false | null | undefined | 0;

type Shown = Pick<RecordingForm, 'saving' | 'saved' | 'progress' | 'takesWhen' | 'untrained'>;

/** Which button of a form was pressed last: where it has several (a vessel each), only that one was recorded. */
const pressed = new WeakMap<Shown, WritableSignal<RecordButton | null>>();
const pressedOf = (form: Shown): WritableSignal<RecordButton | null> => {
  const known = pressed.get(form) ?? signal(null);
  pressed.set(form, known);
  return known;
};

/** A form says once when it happened, however many buttons it has. */
const said = new WeakSet<Shown>();

/**
 * The button that records a form. Greyed it says what is missing; while it is sent, after it was recorded and when no
 * answer came, it says that.
 * @example <button class="go" [ctRecord]="form" [needs]="[!lotId() && 'the lot', !grams() && 'how much']">Record</button>
 */
@Component({
  selector: 'button[ctRecord]',
  template: `<span class="words"><ng-content /></span>
    @if (says(); as words) {
      <small [class.missing]="missing()">{{ words }}</small>
    }`,
  host: {
    class: 'records',
    // While it is sent it keeps the focus; pressed again it does nothing.
    '[disabled]': 'missing() !== null',
    '[attr.aria-disabled]': 'form().saving() ? true : null',
    '[attr.aria-busy]': 'form().saving() && isMine() ? true : null',
    '[class.saved]': 'form().saved() && isMine()',
    '(click)': 'pressedOf(form()).set(this)',
  },
  styles: `
    :host {
      flex-direction: column;
      gap: 2px;
      padding-block: 6px;
    }
    small {
      font: 400 15px/1.2 var(--text);
      max-width: 34ch;
    }
  `,
})
export class RecordButton implements OnInit {
  readonly form = input.required<Shown>({ alias: 'ctRecord' });
  readonly needs = input<readonly Need[]>([]);
  protected readonly missing = computed(() => {
    const missing = this.needs().filter((need): need is string => !!need);
    return missing.length === 0 ? null : `missing: ${missing.join(', ')}`;
  });
  protected readonly pressedOf = pressedOf;
  /** What became of it is said here: this button was pressed, or nobody knows which. */
  protected readonly isMine = computed((): boolean => {
    const last = pressedOf(this.form())();
    return last === null || last === this;
  });
  protected readonly says = computed(() => {
    const progress = this.form().progress();
    if (!this.isMine()) return this.form().untrained() ?? this.missing();
    if (progress.state === 'saving') return 'recording …';
    if (progress.state === 'refused' && progress.problem.code === 'offline') return 'no answer yet: press again';
    if (this.form().saved()) return 'recorded';
    // Said before the work: whoever lacks the training it asks for would do it for nothing.
    return this.form().untrained() ?? this.missing();
  });
  private readonly saidByPage = inject(SAYS_WHEN, { optional: true });
  private readonly place = inject(ViewContainerRef);
  private readonly host = inject<ElementRef<HTMLButtonElement>>(ElementRef);
  private readonly ends = inject(DestroyRef);

  /** Beside the main button of a form stands when it happened: now, unless somebody says otherwise. */
  ngOnInit(): void {
    const form = this.form();
    this.ends.onDestroy(() => pressedOf(form).update((one) => (one === this ? null : one)));
    if (this.saidByPage || !form.takesWhen || said.has(form) || !this.host.nativeElement.classList.contains('go'))
      return;
    said.add(form);
    this.place.createComponent(WhenLine);
    this.ends.onDestroy(() => said.delete(form));
  }
}
