/**
 * The look of Nuxt UI's parts. Their classes are names of `assets/css/parts.css`, which lies outside of the layers of
 * the library's own rules and so comes before them; what is not said there stays as the library has it.
 */
export default defineAppConfig({
  ui: {
    button: {
      slots: { base: 'b' },
      variants: { variant: { ghost: 'q', link: 't' } },
      defaultVariants: { color: 'neutral', variant: 'outline', size: 'xs' },
    },
    dropdownMenu: {
      slots: {
        content: 'float-part',
        item: 'item-part',
        itemDescription: 'small',
        itemWrapper: 'item-words',
        group: 'group-part',
      },
      defaultVariants: { size: 'xs' },
    },
    contextMenu: {
      slots: {
        content: 'float-part',
        item: 'item-part',
        itemDescription: 'small',
        itemWrapper: 'item-words',
        group: 'group-part',
        label: 'menu-label',
      },
      defaultVariants: { size: 'xs' },
    },
    commandPalette: {
      slots: {
        root: 'palette-part',
        group: 'group-part',
        label: 'menu-label',
        item: 'item-part',
        empty: 'small',
      },
      defaultVariants: { size: 'xs' },
    },
    progress: {
      slots: { root: 'progress-part', base: 'progress-base', indicator: 'progress-done' },
      defaultVariants: { color: 'neutral', size: 'lg' },
    },
    kbd: { base: 'kbd-part', defaultVariants: { color: 'neutral', variant: 'outline', size: 'md' } },
    table: {
      slots: {
        root: 'table-part',
        base: 'table-base',
        tr: 'table-row',
        th: 'table-head',
        td: 'table-cell',
        empty: 'small',
      },
    },
    formField: {
      slots: {
        root: 'form-field',
        label: 'form-label',
        container: 'form-control',
        error: 'form-error',
      },
      defaultVariants: { size: 'xs', orientation: 'horizontal' },
    },
    popover: { slots: { content: 'float-part' } },
    modal: {
      slots: {
        content: 'dialog-part',
        overlay: 'no-overlay',
        header: 'head',
        body: 'dialog-body',
      },
    },
    input: {
      slots: { base: 'field-part' },
      defaultVariants: { color: 'neutral', variant: 'outline', size: 'xs' },
    },
    textarea: {
      slots: { base: 'field-part' },
      defaultVariants: { color: 'neutral', variant: 'outline', size: 'xs' },
    },
    select: {
      slots: {
        base: 'field-part choice-field',
        content: 'choices-part',
        item: 'choice-part',
        trailingIcon: 'choice-sign',
      },
      defaultVariants: { color: 'neutral', variant: 'outline', size: 'xs' },
    },
    checkbox: {
      slots: { root: 'check', base: 'tick-part', indicator: 'tick-mark' },
      defaultVariants: { color: 'neutral', size: 'xs' },
    },
    checkboxGroup: { slots: { root: 'ticks-part' }, defaultVariants: { color: 'neutral', size: 'xs' } },
    tabs: {
      slots: { list: 'tabs-part', trigger: 'b', indicator: 'no-indicator' },
      defaultVariants: { color: 'neutral', size: 'xs' },
    },
  },
})
