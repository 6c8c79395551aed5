import { passed, type RecallRule, refused } from '../rule.ts';

/** One of the clinic's own fields has another value than the plan asks for, or none. */
export const field: RecallRule = {
  code: 'field',
  applies: ({ who }) => who.fields.length > 0,
  judge: ({ plan, person }) => {
    const other = plan.who.fields.find(({ fieldId, values }) => {
      const answer = person.fields[fieldId];
      return answer === undefined || !values.includes(answer);
    });
    return other ? refused({ fieldId: other.fieldId }) : passed();
  },
};
