/** How the parts of the Export page's choices look that are components of their own: a column under a small heading. */
export const panelStyles = `
  :host {
    display: flex;
    flex-direction: column;
    gap: 6px;
  }
  h3 {
    margin-top: 8px;
    color: var(--ink-soft);
    font-size: 13px;
  }
  p {
    margin: 0;
  }
  p:empty {
    display: none;
  }
`;
