// Reports arithmetic, comparison and templating on the `value` of a figure the API sent (anything that also has
// `shown` and `bound`): the web shows the text it was given and decides nothing.
import { ESLintUtils } from "@typescript-eslint/utils";

const create = ESLintUtils.RuleCreator.withoutDocs;

export const noQuantityArithmetic = create({
  meta: {
    type: "problem",
    schema: [],
    messages: { no: "A quantity's value is not for reckoning or writing here: use `shown`." },
  },
  defaultOptions: [],
  create(context) {
    const services = ESLintUtils.getParserServices(context);
    const isQuantity = (node) => {
      if (node?.type !== "MemberExpression" || node.property.name !== "value") return false;
      const type = services.getTypeAtLocation(node.object);
      return ["shown", "bound", "figure", "symbol"].every((name) => type.getProperty(name) !== undefined);
    };
    const check = (node, ...parts) => parts.some(isQuantity) && context.report({ node, messageId: "no" });
    return {
      BinaryExpression: (node) => check(node, node.left, node.right),
      TemplateLiteral: (node) => check(node, ...node.expressions),
      UnaryExpression: (node) => check(node, node.argument),
      CallExpression: (node) => check(node, ...node.arguments),
    };
  },
});
