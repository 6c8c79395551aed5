/** What is wrong with what was typed; codes as contracts and rules name them. */
export const setupFaultWords = {
  nonGsmLetters:
    'This name appears in text messages. With {{letters}} in it, a text holds 70 characters instead of 160, so each one costs at least twice as much.',
  useInstead: 'Use “{{text}}” instead',
  noGsmSpelling: 'Use other characters, or remove them.',
  closuresMore:
    'Only the first {{count}} fit: a site keeps at most {{most}} closures. For weekly closings, change the opening hours instead.',
};
