/// <reference types="vite/client" />
declare module '*.module.css' {
  const classes: Record<string, string>;
  export default classes;
}
declare module '*.css';
declare module '@fontsource-variable/hanken-grotesk';
declare module '@fontsource-variable/spline-sans-mono';
