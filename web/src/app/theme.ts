import { createTheme, type CSSVariablesResolver, type MantineColorsTuple } from '@mantine/core';

const petrol: MantineColorsTuple = [
  '#e6f3f3',
  '#cfe5e6',
  '#a0cbcd',
  '#6cb0b3',
  '#41979c',
  '#23858b',
  '#0b6e75',
  '#085f65',
  '#064e53',
  '#043c40',
];
const plum: MantineColorsTuple = [
  '#f6eef4',
  '#ead9e5',
  '#d5b3cb',
  '#c08bb0',
  '#ac6798',
  '#955183',
  '#7b3f6b',
  '#6a355c',
  '#58294c',
  '#451d3b',
];
const clay: MantineColorsTuple = [
  '#fbeee8',
  '#f4dacf',
  '#e8b39d',
  '#dc8b69',
  '#cd6b42',
  '#c05c34',
  '#b4532a',
  '#984522',
  '#7d381b',
  '#622b14',
];

/** Ink and glass for the dark scheme, from text to ground. */
const dark: MantineColorsTuple = [
  '#dfeaeb',
  '#b9cdd0',
  '#9fb6ba',
  '#86a0a5',
  '#3a555c',
  '#2a434a',
  '#1b333a',
  '#162a30',
  '#0f1e22',
  '#0a1518',
];

/** The look: cool paper, ink, petrol for what can be done, plum for what data fills, clay for what needs attention. */
export const theme = createTheme({
  respectReducedMotion: true,
  fontFamily: "'Hanken Grotesk Variable', system-ui, sans-serif",
  fontFamilyMonospace: "'Spline Sans Mono Variable', ui-monospace, monospace",
  headings: { fontFamily: "'Hanken Grotesk Variable', system-ui, sans-serif", fontWeight: '600' },
  primaryColor: 'petrol',
  primaryShade: 6,
  colors: { petrol, plum, clay, dark },
  black: '#16323a',
  defaultRadius: 4,
  fontSizes: { xs: '12px', sm: '13px', md: '14px', lg: '16px', xl: '20px' },
  spacing: { xs: '8px', sm: '12px', md: '16px', lg: '24px', xl: '32px' },
  cursorType: 'pointer',
  focusRing: 'auto',
  components: {
    // The head of a dialog is no banner of the page.
    ModalHeader: { defaultProps: { role: 'presentation' } },
    TextInput: { defaultProps: { size: 'xs' } },
    Textarea: { defaultProps: { size: 'xs' } },
    Select: { defaultProps: { size: 'xs' } },
    TagsInput: { defaultProps: { size: 'xs' } },
    Autocomplete: { defaultProps: { size: 'xs' } },
    NumberInput: { defaultProps: { size: 'xs' } },
    // Days of the weekend are days like others; red is no colour of ours.
    DateInput: { defaultProps: { weekendDays: [] } },
    Switch: { defaultProps: { size: 'xs' } },
    Button: { defaultProps: { size: 'xs' } },
    Tooltip: { defaultProps: { openDelay: 300, withArrow: false } },
    ScrollArea: { defaultProps: { scrollbarSize: 8 } },
    Modal: { defaultProps: { closeButtonProps: { 'aria-label': 'Close' } } },
    Notification: {
      defaultProps: { closeButtonProps: { 'aria-label': 'Close' } },
      // What a refusal says is read, not only its title.
      styles: { description: { color: 'var(--quiet)' } },
    },
    // Nothing but items stands in a menu; the first of them has the focus.
    Menu: { defaultProps: { shadow: 'sm', withInitialFocusPlaceholder: false } },
  },
});

export const cssVariables: CSSVariablesResolver = () => ({
  variables: {},
  light: {
    '--mantine-color-body': '#f5f8f7',
    '--surface': '#ffffff',
    '--quiet': '#51686d',
    '--mantine-color-dimmed': '#51686d',
    '--mantine-color-error': '#a34821',
    '--line': '#d8e2e0',
    '--data': '#7b3f6b',
    '--data-soft': '#f6eef4',
    '--attention': '#a34821',
    '--attention-soft': '#fbeee8',
    '--chosen': '#e6f3f3',
    '--ink': '#16323a',
    '--bar': '#16323a',
    '--around': '#e9efed',
    '--hover': '#f0f5f4',
  },
  dark: {
    '--mantine-color-body': '#0f1e22',
    '--mantine-color-anchor': '#6cb0b3',
    '--surface': '#162a30',
    '--quiet': '#9fb6ba',
    '--mantine-color-dimmed': '#9fb6ba',
    '--mantine-color-error': '#e8a58a',
    '--line': '#2a434a',
    '--data': '#d5b3cb',
    '--data-soft': '#36283a',
    '--attention': '#e8a58a',
    '--attention-soft': '#3c2a24',
    '--chosen': '#1d3d43',
    '--ink': '#dfeaeb',
    '--bar': '#0a1518',
    '--around': '#0b171a',
    '--hover': '#1b333a',
    '--mantine-color-text': '#dfeaeb',
  },
});
