const root = process.argv[2]; const name = process.argv[3];
const { goldenRoofs, planText } = await import(root + '/core/fixtures/golden.ts');
process.stdout.write(planText(goldenRoofs().find((r) => r.name === name)));
