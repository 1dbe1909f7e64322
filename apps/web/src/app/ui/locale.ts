import { registerLocaleData } from '@angular/common';
import enGb from '@angular/common/locales/en-GB';
import { type EnvironmentProviders, makeEnvironmentProviders } from '@angular/core';
import { en_GB, NZ_DATE_CONFIG, provideNzI18n } from 'ng-zorro-antd/i18n';

/** Words and calendars of the standard parts: English, weeks from Monday. */
export function provideWords(): EnvironmentProviders {
  registerLocaleData(enGb);
  return makeEnvironmentProviders([provideNzI18n(en_GB), { provide: NZ_DATE_CONFIG, useValue: { firstDayOfWeek: 1 } }]);
}
