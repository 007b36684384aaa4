import { Moon, Sun } from 'lucide-react';
import { Sign } from './controls';
import { setTheme, useTheme } from './theme';

/** Turns the page from light to dark and back. */
export function ThemeSign() {
  const theme = useTheme();
  return (
    <Sign
      name={theme === 'dark' ? 'Light page' : 'Dark page'}
      onClick={() => setTheme(theme === 'dark' ? 'light' : 'dark')}
    >
      {theme === 'dark' ? <Sun size={15} /> : <Moon size={15} />}
    </Sign>
  );
}
