import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { yaml } from '@codemirror/lang-yaml';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap, lineNumbers } from '@codemirror/view';
import { useEffect, useRef } from 'react';
import { editorLook } from './editorLook';

interface TextEditorProps {
  value: string;
  change: (text: string) => void;
  /** Given the editor when it is there, and null when it is gone. */
  made: (editor: EditorView | null) => void;
}

/** The text of a job in an editor. What comes from outside replaces what stands there; what is typed is told. */
export function TextEditor({ value, change, made }: TextEditorProps) {
  const place = useRef<HTMLDivElement>(null);
  const editor = useRef<EditorView | null>(null);
  const told = useRef({ change, made });
  useEffect(() => {
    told.current = { change, made };
  });
  useEffect(() => {
    const view = new EditorView({
      parent: place.current ?? undefined,
      state: EditorState.create({
        extensions: [
          lineNumbers(),
          history(),
          keymap.of([...defaultKeymap, ...historyKeymap]),
          EditorView.lineWrapping,
          yaml(),
          editorLook,
          EditorView.updateListener.of((update) => {
            if (update.docChanged) {
              told.current.change(update.state.doc.toString());
            }
          }),
        ],
      }),
    });
    editor.current = view;
    told.current.made(view);
    return () => {
      told.current.made(null);
      view.destroy();
    };
  }, []);
  useEffect(() => {
    const view = editor.current;
    if (view && view.state.doc.toString() !== value) {
      view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: value } });
    }
  }, [value]);
  return <div ref={place} className="text-editor" />;
}
