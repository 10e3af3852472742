import 'vuetify/styles';
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
    VBtn: { variant: 'flat', rounded: 'lg', size: 'small', class: 'text-none' },
    VTextField: { variant: 'solo-filled', density: 'compact', flat: true, rounded: 'lg', hideDetails: 'auto' },
    VTextarea: { variant: 'solo-filled', density: 'compact', flat: true, rounded: 'lg', hideDetails: 'auto' },
    VSelect: { variant: 'solo-filled', density: 'compact', flat: true, rounded: 'lg', hideDetails: 'auto' },
    VTooltip: { openDelay: 500, location: 'bottom' },
    VDialog: { maxWidth: 460 },
  },
});
