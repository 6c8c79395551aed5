export { Box, CheckField, ManyField, RadioField, SelectField } from './choices.tsx';
export { ContractForm } from './ContractForm.tsx';
export { FormActions } from './FormActions.tsx';
export { contractResolver, FaultFacts, RequiredFields, useFault } from './contractForm.ts';
export {
  DateField,
  ListFault,
  type Named,
  NumberField,
  type Option,
  PairField,
  Section,
  TextField,
  TimeField,
  useValue,
} from './fields.tsx';
export { KeptTyping, Resumed, useForgetTyping, useKeptState } from './KeptTyping.tsx';
export { useContractForm } from './useContractForm.ts';
