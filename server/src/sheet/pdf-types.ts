import type pdfmake from 'pdfmake';

/** A document as its maker wants it described. */
export type Description = Parameters<typeof pdfmake.createPdf>[0];
/** Anything that stands on a page. */
export type Content = Description['content'];
/** A text that stands on a page. */
export type ContentText = Extract<Content, { text: unknown; link?: unknown }>;
/** Typefaces by their names. */
export type Typefaces = Parameters<typeof pdfmake.setFonts>[0];
