import { TestBed } from '@angular/core/testing';
import { Unbroken } from './unbroken';

describe('words with codes in them', () => {
  const shown = (words: string): { text: string; codes: string[] } => {
    const made = TestBed.createComponent(Unbroken);
    made.componentRef.setInput('words', words);
    made.detectChanges();
    const element = made.nativeElement as HTMLElement;
    return {
      text: element.textContent ?? '',
      codes: [...element.querySelectorAll('.code')].map((code) => code.textContent ?? ''),
    };
  };

  it('say what they said, each code in one piece', () => {
    for (const [words, codes] of [
      ['Salt, SP-0002', ['SP-0002']],
      ['Brine for the kitchen: NY26-302-A-b2', ['NY26-302-A-b2']],
      ['off NY26-302-A-D5 into NY26-303-B', ['NY26-302-A-D5', 'NY26-303-B']],
      ['In, not weighed: all-purpose salt', []],
      ['', []],
    ] as const)
      expect(shown(words))
        .withContext(words)
        .toEqual({ text: words, codes: [...codes] });
  });
});
