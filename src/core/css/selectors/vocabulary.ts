/** Pseudo-classes that depend on what the reader does, or on a form's state: a static document does not decide them. */
export const statePseudoClasses: ReadonlySet<string> = new Set(
  (
    'hover active focus focus-visible focus-within visited target target-within checked indeterminate disabled enabled ' +
    'read-only read-write placeholder-shown default valid invalid in-range out-of-range required optional autofill open ' +
    'modal fullscreen popover-open playing paused muted user-valid user-invalid local-link current past future state ' +
    'picture-in-picture -webkit-autofill -webkit-any-link'
  ).split(' '),
);

/** Pseudo-elements of the CSS specifications. */
export const pseudoElements: ReadonlySet<string> = new Set(
  (
    'before after first-line first-letter marker placeholder selection backdrop file-selector-button cue slotted part ' +
    'target-text spelling-error grammar-error details-content highlight view-transition'
  ).split(' '),
);

/** Attributes whose values HTML compares without case in selectors (HTML standard, 4.16.2). */
export const caseInsensitiveAttributes: ReadonlySet<string> = new Set(
  (
    'accept accept-charset align alink axis bgcolor charset checked clear codetype color compact declare defer dir direction ' +
    'disabled enctype face frame hreflang http-equiv lang language link media method multiple nohref noresize noshade nowrap ' +
    'readonly rel rev rules scope scrolling selected shape target text type valign valuetype vlink'
  ).split(' '),
);
