import { dayMoved } from './employers/events';
import { joinGroup } from './groups/groups';
import { letDueChangesCount } from './people/dated-changes';
import { postPay } from './journal/post-pay';
import { posted } from './ledger/events';
import { personJoins } from './people/events';
import { lookAgain } from './tie-outs/tie-outs';

// Who hears what is told further down. Loaded once by everything that works with the services.
dayMoved.hear(({ database, employerId }) => letDueChangesCount(database, employerId));
posted.hear(({ scope, lines, values, transaction }) => postPay(scope, lines, values, transaction));
posted.hear(({ scope, transaction }) => lookAgain(scope, transaction));
personJoins.hear(({ scope, groupId, person, transaction }) => joinGroup(scope, groupId, person, transaction));
