// The bench speaks English. Of react-aria's own words the other languages are left out of the bundle: they were half of the bench's code.
// A dictionary passes over a language that is undefined (react-aria says so where it builds them) and falls back to English.
module.exports = () => 'export default undefined;\n';
