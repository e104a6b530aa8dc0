// PrimeVue's design tokens in Yoroi's colours and sizes; day and night follow the CSS variables of base.css.
import { definePreset } from '@primeuix/themes'
// the tokens of the components that are used, not of all there are: a further component is a line here
import base from '@primeuix/themes/nora/base'
import badge from '@primeuix/themes/nora/badge'
import button from '@primeuix/themes/nora/button'
import dialog from '@primeuix/themes/nora/dialog'
import iconfield from '@primeuix/themes/nora/iconfield'
import inputtext from '@primeuix/themes/nora/inputtext'
import menu from '@primeuix/themes/nora/menu'
import popover from '@primeuix/themes/nora/popover'
import progressbar from '@primeuix/themes/nora/progressbar'
import ripple from '@primeuix/themes/nora/ripple'
import select from '@primeuix/themes/nora/select'
import tree from '@primeuix/themes/nora/tree'
import virtualscroller from '@primeuix/themes/nora/virtualscroller'
import checkbox from '@primeuix/themes/nora/checkbox'

const shades = (c: string): Record<string, string> =>
  Object.fromEntries(['50', '100', '200', '300', '400', '500', '600', '700', '800', '900', '950'].map((k) => [k, c]))

const scheme = {
  surface: {
    0: 'var(--panel)',
    50: 'var(--paper)',
    100: 'var(--paper)',
    200: 'var(--line)',
    300: 'var(--line)',
    400: 'var(--line-strong)',
    500: 'var(--quiet)',
    600: 'var(--quiet)',
    700: 'var(--ink)',
    800: 'var(--ink)',
    900: 'var(--ink)',
    950: 'var(--ink)',
  },
  primary: {
    color: 'var(--plum)',
    contrastColor: 'var(--on-plum)',
    hoverColor: 'var(--plum)',
    activeColor: 'var(--plum)',
  },
  highlight: {
    background: 'var(--plum-soft)',
    focusBackground: 'var(--plum-soft)',
    color: 'var(--ink)',
    focusColor: 'var(--ink)',
  },
  text: { color: 'var(--ink)', hoverColor: 'var(--ink)', mutedColor: 'var(--quiet)', hoverMutedColor: 'var(--ink)' },
  content: {
    background: 'var(--panel)',
    hoverBackground: 'var(--paper)',
    borderColor: 'var(--line)',
    color: 'var(--ink)',
    hoverColor: 'var(--ink)',
  },
  formField: {
    background: 'transparent',
    filledBackground: 'transparent',
    borderColor: 'var(--line)',
    hoverBorderColor: 'var(--line-strong)',
    focusBorderColor: 'var(--plum)',
    color: 'var(--ink)',
    placeholderColor: 'var(--quiet)',
    iconColor: 'var(--quiet)',
  },
  overlay: {
    select: { background: 'var(--panel)', borderColor: 'var(--line-strong)', color: 'var(--ink)' },
    popover: { background: 'var(--panel)', borderColor: 'var(--line-strong)', color: 'var(--ink)' },
    modal: { background: 'var(--panel)', borderColor: 'var(--line-strong)', color: 'var(--ink)' },
  },
  list: { option: { focusBackground: 'var(--plum-soft)', selectedBackground: 'var(--plum-soft)', selectedFocusBackground: 'var(--plum-soft)', color: 'var(--ink)', focusColor: 'var(--ink)', selectedColor: 'var(--ink)', selectedFocusColor: 'var(--ink)' } }, // prettier-ignore
  navigation: { item: { focusBackground: 'var(--plum-soft)', activeBackground: 'var(--plum-soft)', color: 'var(--ink)', focusColor: 'var(--ink)', activeColor: 'var(--ink)', icon: { color: 'var(--quiet)', focusColor: 'var(--ink)', activeColor: 'var(--ink)' } } }, // prettier-ignore
}

const components = {
  badge,
  button,
  dialog,
  iconfield,
  inputtext,
  menu,
  popover,
  progressbar,
  ripple,
  select,
  tree,
  virtualscroller,
  checkbox,
}

export const preset = definePreset(
  { ...base, components },
  {
    primitive: { borderRadius: { none: '0', xs: '2px', sm: '3px', md: '4px', lg: '4px', xl: '6px' } },
    semantic: {
      transitionDuration: '0.12s',
      focusRing: { width: '2px', style: 'solid', color: 'var(--plum)', offset: '1px' },
      primary: shades('var(--plum)'),
      formField: { paddingX: '6px', paddingY: '3px', borderRadius: '4px' },
      list: { padding: '4px', option: { padding: '4px 8px', borderRadius: '3px' } },
      navigation: { list: { padding: '4px' }, item: { padding: '4px 8px', borderRadius: '3px', gap: '8px' } },
      overlay: {
        select: { shadow: 'var(--shadow)' },
        popover: { padding: '10px', shadow: 'var(--shadow)' },
        modal: { padding: '16px', shadow: 'var(--shadow)' },
      },
      colorScheme: { light: scheme, dark: scheme },
    },
  },
)
