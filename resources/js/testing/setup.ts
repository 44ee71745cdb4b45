import { StyleSheet } from '@emotion/sheet';

/*
 * Of the styles that components bring, jsdom gets those that can hide an element or close it to the pointer: they decide what a role or a click finds.
 * It reads all rules anew for each element that is looked at, so the others cost a quarter of a test and change nothing.
 */
// eslint-disable-next-line @typescript-eslint/unbound-method -- called with its sheet below
const { insert } = StyleSheet.prototype;
StyleSheet.prototype.insert = function (this: StyleSheet, rule: string) {
    if (/display:\s*none|visibility:|pointer-events:/.test(rule)) insert.call(this, rule);
};
