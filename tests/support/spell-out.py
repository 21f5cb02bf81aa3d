"""Numbers as words by the rule-based number formats of CLDR, as the ICU library has them: an independent reference.

Reads {language: {rule set: [numbers]}} as JSON, writes the same with words in place of the numbers.
"""
import json
import sys

import icu

answer = {}
for language, wanted in json.load(sys.stdin).items():
    spell = icu.RuleBasedNumberFormat(icu.URBNFRuleSetTag.SPELLOUT, icu.Locale(language))
    answer[language] = {}
    for rule_set, numbers in wanted.items():
        spell.setDefaultRuleSet('%' + rule_set)
        answer[language][rule_set] = [spell.format(number).replace('\u00ad', '') for number in numbers]
json.dump(answer, sys.stdout)
