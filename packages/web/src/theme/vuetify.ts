import 'vuetify/styles';
import { mdiChevronDown } from '@mdi/js';
import { createVuetify } from 'vuetify';
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg';

/** The component library in our colours; the same values as tokens.css. */
export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: {
    defaultTheme: 'orbit',
    themes: {
      orbit: {
        dark: true,
        colors: {
          background: '#16131C',
          surface: '#1E1A26',
          'surface-bright': '#282332',
          'surface-variant': '#282332',
          'on-surface': '#ECE7F2',
          primary: '#7FD1AE',
          secondary: '#A88BEB',
          warning: '#E9B44C',
          error: '#F2836B',
        },
      },
    },
  },
  defaults: {
    VBtn: { variant: 'text', ripple: false },
    VTextField: { variant: 'plain', density: 'compact', hideDetails: 'auto', singleLine: true },
    VTextarea: { variant: 'plain', density: 'compact', hideDetails: 'auto', singleLine: true },
    VSelect: {
      ...{ variant: 'plain', density: 'compact', hideDetails: 'auto', singleLine: true, menuIcon: mdiChevronDown },
      menuProps: { contentClass: 'ui-select-menu' },
    },
    VTooltip: { eager: false, openDelay: 500, location: 'bottom', transition: false },
    VMenu: { transition: false },
    VSkeletonLoader: { color: 'surface', boilerplate: false },
    VCard: { variant: 'flat' },
    VDialog: { maxWidth: 460 },
  },
});
