import type { z } from 'zod'

const KIND: Record<string, string> = {
  string: 'text',
  number: 'a number',
  boolean: 'yes or no',
  array: 'a list',
  object: 'a set of named values',
  record: 'a set of named values',
  tuple: 'a list',
}

/** What is wrong with checked data, in words: `route.2.id is missing`. */
export function sayIssue(issue: z.core.$ZodIssue): string {
  const what = issue.path.length > 0 ? issue.path.join('.') : 'it'
  if (issue.code === 'invalid_type')
    return / undefined$/.test(issue.message)
      ? `${what} is missing`
      : `${what} must be ${KIND[issue.expected] ?? issue.expected}`
  if (issue.code === 'invalid_value')
    return `${what} must be one of ${issue.values.map(String).join(', ')}`
  return `${what} is not right: ${issue.message}`
}
