import { styled } from '@mui/material/styles';

export const Card = styled('section')`
    border: 1px solid var(--rule-strong);
    border-left-width: 5px;
    background: var(--sheet);
    padding: 10px 14px;
    margin-bottom: 10px;
    & .facts {
        display: grid;
        grid-template-columns: 1fr 1fr 1.35fr 1.1fr;
        gap: 4px 16px;
        margin-top: 8px;
    }
    & .facts div span {
        display: block;
        color: var(--soft);
        font-size: 12px;
    }
`;

export const BoxesBox = styled('div')`
    display: flex;
    gap: 10px;
    justify-content: flex-end;
    flex-wrap: wrap;
    max-width: 230px;
    font-size: 12px;
    & figure {
        margin: 0;
        text-align: center;
        color: var(--soft);
        line-height: 1.1;
    }
    & svg {
        display: block;
        width: 84px;
        height: 84px;
    }
`;
