import { theme } from 'ant-design-vue';
import type { ThemeConfig } from 'ant-design-vue/es/config-provider/context';

/** Every colour, once: they become the CSS variables and the library's theme. Light is the default. */
const light = {
  // ground: the dry side, near-white with a cool sage cast
  ground: '#f1f5f2',
  surface: '#fbfdfb',
  sunk: '#e3eae6',
  line: '#ccd6d1',
  'line-strong': '#76857f',
  // ink: basalt
  ink: '#1a2123',
  'ink-2': '#3e4a4c',
  'ink-3': '#586563',
  // one action colour: everything in it can be pressed, or asks you something
  action: '#0f505b',
  'action-hover': '#0a3d46',
  'action-tint': '#dbe9e8',
  'on-action': '#fbfdfb',
  // conditions
  steady: '#4a6c92',
  'steady-text': '#34567c',
  'steady-tint': '#e0e8f0',
  watch: '#c2932b',
  'watch-edge': '#7a5708',
  'watch-text': '#745206',
  'watch-tint': '#f3ebd3',
  act: '#9e3719',
  'act-text': '#8f3016',
  'act-tint': '#f6e3da',
  'on-act': '#ffffff',
  none: '#586563',
  reread: '#0f505b',
  // plan view
  case: '#fbfdfb',
  'case-edge': '#76857f',
  'cell-rule': '#dce4e0',
  band: '#e6eeea',
  median: '#3e4a4c',
  link: '#1a2123',
  shade: 'rgba(26, 33, 35, 0.1)',
};
/** For dim battery rooms. */
const shed: typeof light = {
  ground: '#0f1516',
  surface: '#161e20',
  sunk: '#202a2c',
  line: '#2c393b',
  'line-strong': '#71817f',
  ink: '#d9e1dd',
  'ink-2': '#b4c0bc',
  'ink-3': '#8f9d9a',
  action: '#7fc1c4',
  'action-hover': '#9ad2d4',
  'action-tint': '#1b3438',
  'on-action': '#08252a',
  steady: '#7e9fc6',
  'steady-text': '#9db9da',
  'steady-tint': '#1c2a3a',
  watch: '#cfa340',
  'watch-edge': '#e9c777',
  'watch-text': '#e2bc63',
  'watch-tint': '#30280f',
  act: '#e77b55',
  'act-text': '#f0936f',
  'act-tint': '#3a1d14',
  'on-act': '#1f0b04',
  none: '#8f9d9a',
  reread: '#7fc1c4',
  case: '#182123',
  'case-edge': '#71817f',
  'cell-rule': '#263234',
  band: '#1f2c2f',
  median: '#b4c0bc',
  link: '#9daba7',
  shade: 'rgba(0, 0, 0, 0.4)',
};

/** Makes the colours of both themes CSS variables of the page. */
export function wearColours(): void {
  const variables = (colours: typeof light): string =>
    Object.entries(colours)
      .map(([name, colour]) => `--${name}: ${colour};`)
      .join(' ');
  const sheet = new CSSStyleSheet();
  sheet.replaceSync(
    `:root { ${variables(light)} color-scheme: light; }
     [data-theme='shed'] { ${variables(shed)} color-scheme: dark; }`,
  );
  document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
}

/** The component library in the language of the application; its algorithm cannot read CSS variables. */
export function antTheme(dim: boolean, phone: boolean): ThemeConfig {
  const c = dim ? shed : light;
  return {
    algorithm: dim ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      colorPrimary: c.action,
      colorInfo: c.steady,
      colorWarning: c['watch-edge'],
      colorError: c.act,
      colorSuccess: c.steady,
      colorBgLayout: c.ground,
      colorBgContainer: c.surface,
      colorBgElevated: c.surface,
      colorFillTertiary: c.sunk,
      colorText: c.ink,
      colorTextSecondary: c['ink-2'],
      colorTextTertiary: c['ink-3'],
      colorTextPlaceholder: c['ink-3'],
      colorTextDescription: c['ink-3'],
      colorTextDisabled: c['ink-3'],
      colorIcon: c['ink-3'],
      colorBorder: c['line-strong'],
      colorBorderSecondary: c.line,
      colorLink: c.action,
      colorTextLightSolid: c['on-action'],
      fontFamily: "'Atkinson Hyperlegible Next', sans-serif",
      fontSize: 14,
      lineHeight: 1.43,
      borderRadius: 3,
      borderRadiusLG: 3,
      borderRadiusSM: 3,
      borderRadiusXS: 3,
      controlHeight: phone ? 48 : 36,
      controlHeightLG: 48,
      controlHeightSM: 28,
      boxShadow: 'none',
      boxShadowSecondary: 'none',
      motionDurationMid: '0.16s',
      wireframe: false,
    },
  };
}
