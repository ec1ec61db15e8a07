// A lint rule of this house: controls and tables are Material's or the CDK's, except in what is drawn by hand.

/** The directives of which a bare element needs one, by element. */
const PARTS = {
  button: [
    'matButton',
    'matIconButton',
    'matFab',
    'matMiniFab',
    'mat-menu-item',
    'mat-tab-link',
    'mat-list-item',
    'matChipRemove',
    'matChipAction',
    'cdkMenuItem',
    'cdkOption',
  ],
  input: [
    'matInput',
    'matSliderThumb',
    'matSliderStartThumb',
    'matSliderEndThumb',
    'matChipInputFor',
  ],
  select: ['matNativeControl'],
  textarea: ['matInput'],
  table: ['mat-table', 'cdk-table'],
};

/** @type {import('eslint').Rule.RuleModule} */
const standardParts = {
  meta: {
    type: 'problem',
    docs: { description: 'controls and tables are Material’s or the CDK’s' },
    messages: {
      title: 'Tooltips are Material’s: matTooltip, not title.',
      bare: '<{{element}}> stands bare: give it one of {{parts}}, or draw it in a component that is listed as drawn by hand.',
    },
    schema: [],
  },
  create(context) {
    return {
      'Element, Element$1'(node) {
        const given = [...node.attributes, ...node.inputs].map(({ name }) => name);
        const loc = context.sourceCode.parserServices.convertNodeSourceSpanToLoc(node.sourceSpan);
        if (!node.name.includes('-') && given.includes('title'))
          context.report({ loc, messageId: 'title' });
        const parts = PARTS[node.name];
        if (!parts || parts.some((part) => given.includes(part))) return;
        context.report({
          loc,
          messageId: 'bare',
          data: { element: node.name, parts: parts.join(', ') },
        });
      },
    };
  },
};

export default { rules: { 'standard-parts': standardParts } };
