import { dayMoved } from './employers/events';
import { joinGroup } from './groups/groups';
import { letDueChangesCount } from './people/dated-changes';
import { personJoins } from './people/events';

// Who hears what is told further down. Loaded once by everything that works with the services.
dayMoved.hear(({ database, employerId }) => letDueChangesCount(database, employerId));
personJoins.hear(({ scope, groupId, person, transaction }) => joinGroup(scope, groupId, person, transaction));
