/** Why a template tag is not in the result, to stand behind "because". */
export const tagReason = {
  notShown: 'nothing that the HTML shows holds it',
  noEffect: 'what it stands in has no effect here',
} as const;
