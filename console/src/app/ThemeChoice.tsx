import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { applyTheme, storedTheme } from './theme';
import type { Theme } from './theme';

export function ThemeChoice() {
  const [theme, setTheme] = useState<Theme>(storedTheme);
  return (
    <label className="rail-theme">
      Look
      <Form.Select
        size="sm"
        value={theme}
        onChange={(event) => {
          const chosen = event.target.value as Theme;
          applyTheme(chosen);
          setTheme(chosen);
        }}
      >
        <option value="system">as the system</option>
        <option value="light">light</option>
        <option value="dark">dark</option>
      </Form.Select>
    </label>
  );
}
