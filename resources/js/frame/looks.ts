import { styled } from '@mui/material/styles';

export const BarBox = styled('header')`
    height: 48px;
    flex: none;
    background: var(--bar);
    color: var(--bar-text);
    display: flex;
    align-items: center;
    gap: 14px;
    padding: 0 18px;
    white-space: nowrap;
    & a {
        color: inherit;
        text-decoration: none;
    }
    & .brand {
        display: flex;
        align-items: center;
        gap: 9px;
        font-weight: 700;
        font-size: 15px;
    }
    & .crumb {
        opacity: 0.8;
    }
    & .grow {
        flex: 1;
    }
    & a:focus-visible {
        outline-color: var(--anvil);
    }
    & .verdict {
        background: var(--sheet);
        color: var(--ink);
        padding: 4px 12px;
        font-weight: 700;
        display: flex;
        align-items: center;
        gap: 7px;
    }
    & .narrow {
        display: none;
    }
    @media (max-width: 1180px) {
        & .wide {
            display: none;
        }
        & .narrow {
            display: inline;
        }
    }
    @media print {
        display: none;
    }
    @media (max-width: 760px) {
        gap: 6px;
        padding: 0 8px;
        & .brand > span,
        & kbd {
            display: none;
        }
        & a,
        & button {
            padding-left: 6px;
            padding-right: 6px;
            min-width: 0;
        }
    }
`;

export const RailBox = styled('nav')`
    height: 44px;
    flex: none;
    display: flex;
    align-items: stretch;
    padding: 0 10px;
    background: var(--sheet);
    border-bottom: 1px solid var(--rule);
    overflow: hidden;
    & a {
        display: flex;
        align-items: center;
        gap: 6px;
        padding: 0 8px;
        color: var(--soft);
        border: 3px solid transparent;
        border-width: 3px 0;
        white-space: nowrap;
        font: inherit;
        font-size: 13px;
    }
    & a.here {
        color: var(--ink);
        font-weight: 700;
        border-bottom-color: var(--ink);
    }
    & .state {
        display: inline-flex;
        align-items: center;
        gap: 3px;
        font: 600 12px var(--mono);
    }
    & .joint {
        align-self: center;
        width: 7px;
        border-top: 1px solid var(--rule-strong);
        flex: none;
    }
    @media (max-width: 1180px) {
        & a {
            padding: 0 5px;
            font-size: 12.5px;
        }
        & kbd {
            display: none;
        }
        & .joint {
            width: 3px;
        }
    }
`;

export const App = styled('div')`
    height: 100%;
    display: flex;
    flex-direction: column;
`;
