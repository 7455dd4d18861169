import type { ReactNode } from 'react';
import { NavLink } from 'react-router';
import { Who } from '../features/access/SignedIn';
import { EnvironmentChoice, EnvironmentStrip } from './EnvironmentChoice';
import { LookStrip } from './LookStrip';
import { ServiceStrip } from './ServiceStrip';
import { ThemeChoice } from './ThemeChoice';

const PLACES = [
  { to: '/', name: 'Overview' },
  { to: '/sources', name: 'Sources' },
  { to: '/jobs', name: 'Jobs' },
  { to: '/runs', name: 'Runs' },
  { to: '/rejects', name: 'Rejects' },
  { to: '/crosswalks', name: 'Crosswalks' },
  { to: '/connections', name: 'Connections' },
  { to: '/kept', name: 'Kept' },
];

/** The rail with the places, the strip for a service that is gone, and the page. */
export function Layout({ children }: { children: ReactNode }) {
  return (
    <div className="shell">
      <nav className="rail" aria-label="Places">
        <div className="rail-name">Nachlauf</div>
        {PLACES.map((place) => (
          <NavLink key={place.to} to={place.to} end={place.to === '/'} className="rail-place">
            {place.name}
          </NavLink>
        ))}
        <EnvironmentChoice />
        <ThemeChoice />
        <Who />
      </nav>
      <main className="page">
        <EnvironmentStrip />
        <ServiceStrip />
        <LookStrip />
        {children}
      </main>
    </div>
  );
}
