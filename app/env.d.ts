declare module '*.vue' {
  import type { DefineComponent } from 'vue'
  const component: DefineComponent
  export default component
}
declare module 'plotly.js-basic-dist-min' {
  export * from 'plotly.js'
}
