/** What is done with each kind of message: the compiler asks for a line for every kind there is. */
type ByKind<Message extends { kind: string }, Answer> = {
  [Kind in Message['kind']]: (message: Message & { kind: Kind }) => Answer;
};

/** Does with a message what the table says for its kind. */
export function byKind<Message extends { kind: string }, Answer = void>(
  message: Message,
  table: ByKind<Message, Answer>,
): Answer {
  return (table[message.kind as Message['kind']] as (message: Message) => Answer)(message);
}
