import { Moon, Sun } from 'lucide-react';
import { Suspense, createContext, useContext, useState, type ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { RouterProvider as AriaRouterProvider } from 'react-aria-components';
import { ErrorBoundary } from 'react-error-boundary';
import { Link, Outlet, useHref, useLocation, useNavigate } from 'react-router';
import styled from 'styled-components';
import { IconButton } from '../ui/icon-button.tsx';
import { ToastRegion } from '../ui/toast.tsx';
import { UnderWay } from '../ui/under-way.tsx';
import { NARROW, PRINT, focusRing } from '../ui/tokens.ts';
import { switchTheme, useTheme } from './theme.ts';
import { Trouble } from './trouble.tsx';

const Head = styled.header`
  display: flex;
  align-items: flex-end;
  gap: 8px 24px;
  min-height: 64px;
  padding: 0 20px 0 28px;
  ${NARROW} {
    flex-wrap: wrap;
    padding: 8px 12px 0 20px;
    gap: 0 16px;
  }
  ${PRINT} {
    display: none;
  }
`;

const Brand = styled(Link)`
  display: flex;
  align-items: center;
  gap: 10px;
  height: 64px;
  padding-top: 10px;
  color: var(--ink);
  text-decoration: none;
  font-size: var(--size-19);
  font-weight: 720;
  letter-spacing: -0.01em;
  border-radius: 6px;
  ${NARROW} {
    height: 44px;
    padding-top: 0;
  }
  &:focus-visible {
    ${focusRing}
    outline-offset: -4px;
  }
`;

const Slot = styled.div`
  flex: 1;
  min-width: 0;
  display: flex;
  align-items: flex-end;
  gap: 16px;
  ${NARROW} {
    order: 3;
    flex-basis: 100%;
    flex-wrap: wrap;
    gap: 0 16px;
  }
`;

const Tools = styled.div`
  display: flex;
  align-items: center;
  height: 64px;
  padding-top: 10px;
  ${NARROW} {
    height: 44px;
    padding-top: 0;
    margin-left: auto;
  }
`;

const Skip = styled.a`
  position: absolute;
  left: 12px;
  top: -60px;
  z-index: 40;
  padding: 10px 16px;
  background: var(--ink);
  color: var(--sheet);
  border-radius: var(--corner);
  &:focus {
    top: 8px;
  }
`;

const Wait = styled.div`
  flex: 1;
  padding: 28px;
  background: var(--sheet);
  color: var(--quiet);
`;

const HeadSlot = createContext<HTMLElement | null>(null);

/** Puts a study's title and its stages into the head of the page. */
export function InHead({ children }: { children: ReactNode }) {
  const slot = useContext(HeadSlot);
  return slot ? createPortal(children, slot) : null;
}

function Frond() {
  return (
    <svg width={26} height={26} viewBox="0 0 32 32" aria-hidden focusable="false">
      <g fill="none" stroke="var(--fern)" strokeWidth="2.6" strokeLinecap="round">
        <path d="M16 28V5" />
        <path d="M16 22.500c-5 0-8.500-2.200-9.500-6.500M16 22.500c5 0 8.500-2.200 9.500-6.500M16 15.800c-4 0-6.500-1.900-7.300-5.300M16 15.800c4 0 6.500-1.900 7.300-5.300M16 9.600c-2.200-.5-3.600-1.800-4-3.900M16 9.600c2.200-.5 3.600-1.800 4-3.900" />
      </g>
    </svg>
  );
}

/** The frame of every page. */
export function Shell() {
  const navigate = useNavigate();
  const { key } = useLocation();
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  const theme = useTheme();
  return (
    <AriaRouterProvider navigate={(to) => void navigate(to)} useHref={useHref}>
      <HeadSlot value={slot}>
        <Skip href="#content">To the content</Skip>
        <Head>
          <Brand to="/" aria-label="Brackenridge, all studies">
            <Frond />
            Brackenridge
          </Brand>
          <Slot ref={setSlot} />
          <Tools>
            <IconButton
              label={theme === 'dark' ? 'Light theme, for bright rooms' : 'Dark theme, for evenings'}
              onPress={switchTheme}
            >
              {theme === 'dark' ? <Sun size={19} aria-hidden /> : <Moon size={19} aria-hidden />}
            </IconButton>
          </Tools>
        </Head>
        <ErrorBoundary FallbackComponent={Trouble} resetKeys={[key]}>
          <Suspense fallback={<Wait>Opening…</Wait>}>
            <Outlet />
          </Suspense>
        </ErrorBoundary>
        <ToastRegion />
        <UnderWay />
      </HeadSlot>
    </AriaRouterProvider>
  );
}
