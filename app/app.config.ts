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
