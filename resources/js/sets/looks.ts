import { styled } from '@mui/material/styles';

export const LaneBox = styled('div')`
    display: grid;
    grid-template-columns: minmax(100px, 0.6fr) minmax(0, 1.5fr) auto;
    gap: 10px;
    align-items: center;
    min-height: 36px;
    border-bottom: 1px solid var(--rule);
    padding: 3px 0;
    &.chosen {
        background: var(--wash);
    }
    &.out {
        border: 1px dashed var(--rule-strong);
        margin-top: 10px;
        padding: 3px 8px;
    }
    & .lane-head {
        min-width: 0;
        display: flex;
        flex-wrap: wrap;
        gap: 0 10px;
        align-items: baseline;
        overflow-wrap: anywhere;
    }
    & .lane-acts {
        display: flex;
        justify-content: flex-end;
        align-items: center;
        gap: 10px;
        font-size: 12.5px;
        color: var(--soft);
        white-space: nowrap;
    }
    & .chips {
        display: flex;
        flex-wrap: wrap;
        gap: 4px 6px;
    }
`;
