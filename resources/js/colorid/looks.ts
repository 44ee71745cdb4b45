import { styled } from '@mui/material/styles';

export const Swatches = styled('div')`
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
    gap: 10px;
    & .swatch-card {
        border: 1px solid var(--rule-strong);
        background: var(--sheet);
        text-align: left;
        display: block;
        min-width: 0;
        font: inherit;
    }
    & .swatch-card.chosen {
        outline: 2px solid var(--ink);
    }
    & .swatch-card .chip {
        height: 52px;
        padding: 6px 8px;
        font: 600 12px var(--mono);
    }
    & .swatch-card .body {
        padding: 6px 8px;
    }
    & .swatch-card .body div {
        display: flex;
        justify-content: space-between;
        gap: 8px;
    }
`;
