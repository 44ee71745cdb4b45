import { styled } from '@mui/material/styles';

export const DropBox = styled('div')`
    border: 1px dashed var(--rule-strong);
    background: var(--sheet);
    display: flex;
    align-items: center;
    gap: 18px;
    padding: 14px 18px;
    margin: 14px 0;
    &.over {
        background: var(--wash);
        border-color: var(--ink);
    }
    & p {
        margin: 2px 0 0;
        color: var(--soft);
    }
`;

export const Cells = styled('span')`
    display: inline-flex;
    gap: 3px;
    & span:not(.visually-hidden) {
        width: 23px;
        height: 20px;
        border: 1px solid;
        display: grid;
        place-items: center;
        font-size: 11px;
    }
    & .clear {
        border-color: var(--clear);
        background: var(--clear-wash);
    }
    & .blocker {
        border-color: var(--blocker);
        background: var(--blocker-wash);
    }
    & .caution {
        border-color: var(--caution);
        background: var(--caution-wash);
    }
    & .note {
        border-color: var(--note);
    }
    & span.idle {
        border: 1px dashed var(--rule-strong);
        color: var(--soft);
    }
    & .computing {
        border-color: var(--low);
        color: var(--low);
    }
`;

export const RackBox = styled('main')`
    flex: 1;
    overflow-y: auto;
    padding: 20px 28px;
`;

export const Ready = styled('span')`
    border: 1.5px solid var(--ink);
    padding: 1px 8px;
    font-weight: 700;
`;
