import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { EditorView } from '@codemirror/view';
import { tags } from '@lezer/highlight';

/** The page's policy lets a style sheet in that is marked with the page's number. */
function styleNonce(): string {
  return document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '';
}

/** The editor in the house's colours, which follow the theme through the page's variables. */
export const editorLook = [
  EditorView.cspNonce.of(styleNonce()),
  EditorView.contentAttributes.of({ 'aria-label': 'Text of the job', tabindex: '0' }),
  EditorView.theme({
    '&': { backgroundColor: 'var(--panel)', color: 'var(--bs-body-color)' },
    '.cm-gutters': {
      backgroundColor: 'var(--panel)',
      color: 'var(--bs-secondary-color)',
      borderRight: '1px solid var(--bs-border-color)',
    },
    '.cm-activeLineGutter': { backgroundColor: 'var(--spruce-soft)' },
    '.cm-cursor': { borderLeftColor: 'var(--bs-body-color)' },
    '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': { backgroundColor: 'var(--spruce-soft)' },
  }),
  syntaxHighlighting(
    HighlightStyle.define([
      { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: 'var(--spruce)', fontWeight: '600' },
      { tag: tags.comment, color: 'var(--bs-secondary-color)', fontStyle: 'italic' },
    ]),
  ),
];
