/* global __dirname */
const { colors } = require('./src/look/tokens');

const variables = (theme) => Object.fromEntries(Object.entries(theme).map(([role, value]) => [`--${role}`, value]));

/** @type {import('tailwindcss').Config} */
module.exports = {
  content: [require('node:path').join(__dirname, 'src/**/*.{ts,tsx}')],
  presets: [require('nativewind/preset')],
  darkMode: 'media',
  theme: {
    extend: {
      colors: Object.fromEntries(Object.keys(colors.light).map((role) => [role, `var(--${role})`])),
      fontFamily: { sans: ['AtkinsonHyperlegible_400Regular'], bold: ['AtkinsonHyperlegible_700Bold'] },
      fontSize: { 12: ['12px', '16px'], 14: ['14px', '20px'], 16: ['16px', '22px'], 20: ['20px', '26px'] },
    },
  },
  plugins: [
    ({ addBase }) =>
      addBase({
        ':root': variables(colors.light),
        '@media (prefers-color-scheme: dark)': { ':root': variables(colors.dark) },
      }),
  ],
};
