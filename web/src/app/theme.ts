import { createTheme, type CSSVariablesResolver, type MantineColorsTuple } from '@mantine/core';

const petrol: MantineColorsTuple = [
  '#e6f3f3', '#cfe5e6', '#a0cbcd', '#6cb0b3', '#41979c', '#23858b', '#0b6e75', '#085f65', '#064e53', '#043c40',
];
const plum: MantineColorsTuple = [
  '#f6eef4', '#ead9e5', '#d5b3cb', '#c08bb0', '#ac6798', '#955183', '#7b3f6b', '#6a355c', '#58294c', '#451d3b',
];
const clay: MantineColorsTuple = [
  '#fbeee8', '#f4dacf', '#e8b39d', '#dc8b69', '#cd6b42', '#c05c34', '#b4532a', '#984522', '#7d381b', '#622b14',
];

/** The look: cool paper, ink, petrol for what can be done, plum for what data fills, clay for what needs attention. */
export const theme = createTheme({
  fontFamily: "'Hanken Grotesk Variable', system-ui, sans-serif",
  fontFamilyMonospace: "'Spline Sans Mono Variable', ui-monospace, monospace",
  headings: { fontFamily: "'Hanken Grotesk Variable', system-ui, sans-serif", fontWeight: '600' },
  primaryColor: 'petrol',
  primaryShade: { light: 6, dark: 4 },
  colors: { petrol, plum, clay },
  black: '#16323a',
  defaultRadius: 4,
  fontSizes: { xs: '12px', sm: '13px', md: '14px', lg: '16px', xl: '20px' },
  spacing: { xs: '8px', sm: '12px', md: '16px', lg: '24px', xl: '32px' },
  cursorType: 'pointer',
  focusRing: 'auto',
  components: {
    TextInput: { defaultProps: { size: 'xs' } },
    Textarea: { defaultProps: { size: 'xs' } },
    Select: { defaultProps: { size: 'xs' } },
    NumberInput: { defaultProps: { size: 'xs' } },
    Switch: { defaultProps: { size: 'xs' } },
    Button: { defaultProps: { size: 'xs' } },
    Tooltip: { defaultProps: { openDelay: 300, withArrow: false } },
    Menu: { defaultProps: { shadow: 'sm' } },
  },
});

export const cssVariables: CSSVariablesResolver = () => ({
  variables: {},
  light: {
    '--mantine-color-body': '#f5f8f7',
    '--surface': '#ffffff',
    '--quiet': '#51686d',
    '--line': '#d8e2e0',
    '--data': '#7b3f6b',
    '--data-soft': '#f6eef4',
    '--attention': '#a34821',
    '--attention-soft': '#fbeee8',
    '--chosen': '#e6f3f3',
    '--ink': '#16323a',
  },
  dark: {
    '--mantine-color-body': '#0f1e22',
    '--surface': '#162a30',
    '--quiet': '#9fb6ba',
    '--line': '#2a434a',
    '--data': '#d5b3cb',
    '--data-soft': '#36283a',
    '--attention': '#e8a58a',
    '--attention-soft': '#3c2a24',
    '--chosen': '#1d3d43',
    '--ink': '#dfeaeb',
    '--mantine-color-text': '#dfeaeb',
  },
});
