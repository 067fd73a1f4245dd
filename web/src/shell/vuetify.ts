import 'vuetify/styles'
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import { AtOnce } from './atOnce'

const marks = { conforming: '#1D6F63', marginal: '#A86A10', nonconforming: '#B8322A', hold: '#6A4A86', notjudged: '#7A8190' }

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: {
    defaultTheme: 'paper',
    themes: {
      paper: {
        dark: false,
        colors: {
          background: '#F7F4EC',
          surface: '#FFFDF8',
          primary: '#27497A',
          secondary: '#5B6675',
          error: '#B8322A',
          success: '#1D6F63',
          warning: '#A86A10',
          ...marks,
        },
      },
      night: {
        dark: true,
        colors: {
          background: '#12181F',
          surface: '#1A222C',
          primary: '#9DBBE6',
          secondary: '#A9B4C2',
          error: '#F08A80',
          success: '#6FC7B6',
          warning: '#E2B05A',
          ...marks,
        },
      },
    },
  },
  defaults: {
    VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VTextarea: { variant: 'outlined', density: 'compact', hideDetails: 'auto', rows: 2, autoGrow: true },
    VSelect: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VAutocomplete: { variant: 'outlined', density: 'compact', hideDetails: 'auto', autoSelectFirst: 'exact' },
    VCombobox: { variant: 'outlined', density: 'compact', hideDetails: 'auto', menuIcon: '' },
    VCheckbox: { density: 'compact', hideDetails: true, color: 'primary' },
    VRadioGroup: { density: 'compact', hideDetails: true, color: 'primary' },
    VMessages: { transition: { component: AtOnce } },
    VBtn: { variant: 'flat', rounded: '4', height: 34 },
  },
})
