import { Component, inject, input, output, signal } from '@angular/core';
import { FileField } from './file-field';
import { Api, type WireProblem } from '../api/api';

/** Long side of what is kept: a lot code on a delivery note stays readable, a tablet's twelve megapixels do not travel. */
const LONG_SIDE = 1600;

/** A photo taken or chosen here: made smaller on the tablet, which also leaves out what the camera wrote into it; kept on the server. */
@Component({
  selector: 'ct-photo',
  imports: [FileField],
  template: `
    <ct-file [label]="label()" accept="image/*" [camera]="true" (chosen)="chosen($event)" />
    <span class="small" [class.beet]="problem()" aria-live="polite">{{ problem() ?? said() }}</span>
    @if (preview(); as picture) {
      <img [src]="picture" alt="The photo as it is kept" />
    }
  `,
  styles:
    ':host { display: grid; align-self: end; max-width: 330px; } input { font: inherit; min-height: 44px; max-width: 100%; } img { max-height: 76px; border: 1px solid var(--hair); justify-self: start; }',
})
export class PhotoField {
  readonly label = input.required<string>();
  /** The id it is kept under; null when there is none. */
  readonly taken = output<string | null>();
  private readonly api = inject(Api);
  protected readonly said = signal('');
  protected readonly problem = signal<string | null>(null);
  protected readonly preview = signal<string | null>(null);

  protected async chosen(file: File): Promise<void> {
    this.problem.set(null);
    this.preview.set(null);
    this.taken.emit(null);
    this.said.set('Making it smaller …');
    const picture = await smaller(file);
    if (!picture) {
      this.said.set('');
      return this.problem.set(
        `${file.name} is no picture this tablet can open. A JPEG or PNG photo is accepted; it can be recorded without one.`,
      );
    }
    this.api.photo(picture).subscribe({
      next: ({ id }) => {
        this.said.set(`kept, ${Math.round(picture.size / 1000)} kB`);
        this.preview.set(`/api/photos/${id}`);
        this.taken.emit(id);
      },
      error: (refusal: WireProblem) => {
        this.said.set('');
        this.problem.set(refusal.detail);
      },
    });
  }
}

async function smaller(file: Blob): Promise<Blob | null> {
  const image = await createImageBitmap(file).catch(() => null);
  if (!image) return null;
  const scale = Math.min(1, LONG_SIDE / Math.max(image.width, image.height));
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [
    Math.max(1, Math.round(image.width * scale)),
    Math.max(1, Math.round(image.height * scale)),
  ];
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve) => canvas.toBlob(resolve, 'image/jpeg', 0.82));
}
