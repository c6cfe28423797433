/** What pages say by, for Node: `tests/core/test_languages.py`. */
export { startLanguage } from "../../front/src/language/catalogue";
export { spoken } from "../../front/src/language/speak";
