import { styled } from '@mui/material/styles';

export const StandBox = styled('div')`
    position: relative;
    flex: 1;
    min-height: 0;
    overflow: hidden;
    background: repeating-linear-gradient(var(--stand) 0 23px, var(--rule) 23px 24px);
    & canvas {
        position: absolute;
        inset: 0;
        display: block;
    }
    & .stand-top {
        position: absolute;
        top: 8px;
        left: 10px;
        right: 10px;
        z-index: 1;
        pointer-events: none;
    }
    & .stand-top > * > * {
        pointer-events: auto;
    }
    & .stand-tools {
        display: flex;
        gap: 4px;
        flex-wrap: wrap;
        align-items: center;
    }
    & .stand-tools .MuiToggleButton-root {
        padding: 2px 7px;
    }
    & .stand-scale {
        min-width: max-content;
        white-space: nowrap;
        position: absolute;
        right: 16px;
        bottom: 12px;
        text-align: center;
        font: 12px var(--mono);
        pointer-events: none;
    }
    & .stand-scale div {
        border: 1.5px solid var(--ink);
        border-top: 0;
        height: 6px;
    }
    & .stand-names {
        position: absolute;
        left: 12px;
        bottom: 10px;
        max-width: 60%;
        font: 12.5px var(--mono);
        background: var(--sheet);
        border: 1px solid var(--rule-strong);
        padding: 3px 8px;
        overflow-wrap: anywhere;
    }
    & .stand-band {
        position: absolute;
        border: 1px solid var(--ink);
        background: color-mix(in srgb, var(--ink) 12%, transparent);
        pointer-events: none;
    }
    & .stand-divider {
        position: absolute;
        top: 0;
        bottom: 0;
        width: 17px;
        margin-left: -8px;
        cursor: ew-resize;
        touch-action: none;
        background: linear-gradient(90deg, transparent 7px, var(--ink) 7px 10px, transparent 10px);
    }
    & .stand-divider span {
        position: absolute;
        bottom: 44px;
        white-space: nowrap;
        font: 12px var(--mono);
        background: var(--sheet);
        border: 1px solid var(--rule-strong);
        padding: 2px 7px;
        pointer-events: none;
    }
    & .stand-divider .left {
        right: 16px;
    }
    & .stand-divider .right {
        left: 16px;
    }
    & .stand-empty {
        position: absolute;
        inset: 0;
        display: grid;
        place-items: center;
        color: var(--soft);
        text-align: center;
        padding: 30px;
        pointer-events: none;
    }
`;
