import { styled } from '@mui/material/styles';

export const TicketBox = styled('article')`
    background: var(--sheet);
    border: 1px solid var(--rule-strong);
    padding: 16px 20px;
    & h2 {
        margin: 18px 0 4px;
    }
`;

export const Way = styled('ul')`
    list-style: none;
    margin: 0 0 14px;
    padding: 0;
    & li {
        border-bottom: 1px solid var(--rule);
        padding: 7px 2px;
    }
`;
