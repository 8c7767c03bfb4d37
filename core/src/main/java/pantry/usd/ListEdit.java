package pantry.usd;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.UnaryOperator;

/**
 * A layer's edit of a list (AOUSD Core Specification, list operations): either the whole list, or what to delete, add,
 * put in front, put at the end and reorder.
 *
 * @param explicit the whole list, where the layer gives it; the other lists are then empty
 */
public record ListEdit<T>(
        Optional<List<T>> explicit,
        List<T> added,
        List<T> prepended,
        List<T> appended,
        List<T> deleted,
        List<T> ordered) {
    public ListEdit {
        explicit = explicit.map(List::copyOf);
        added = List.copyOf(added);
        prepended = List.copyOf(prepended);
        appended = List.copyOf(appended);
        deleted = List.copyOf(deleted);
        ordered = List.copyOf(ordered);
    }

    /** The operations by their words in the text format. */
    public enum Operation {
        EXPLICIT,
        ADD,
        PREPEND,
        APPEND,
        DELETE,
        REORDER
    }

    /** One for all: most lists are not edited. */
    private static final ListEdit<?> NONE =
            new ListEdit<>(Optional.empty(), List.of(), List.of(), List.of(), List.of(), List.of());

    @SuppressWarnings("unchecked")
    public static <T> ListEdit<T> none() {
        // It holds nothing, so it is a list of whatever is wanted.
        return (ListEdit<T>) NONE;
    }

    public static <T> ListEdit<T> explicit(List<T> items) {
        return ListEdit.<T>none().with(Operation.EXPLICIT, items);
    }

    public static <T> ListEdit<T> prepend(List<T> items) {
        return ListEdit.<T>none().with(Operation.PREPEND, items);
    }

    /** This edit with one operation's items replaced. */
    public ListEdit<T> with(Operation operation, List<T> items) {
        return switch (operation) {
            case EXPLICIT -> new ListEdit<>(Optional.of(items), List.of(), List.of(), List.of(), List.of(), List.of());
            case ADD -> new ListEdit<>(Optional.empty(), items, prepended, appended, deleted, ordered);
            case PREPEND -> new ListEdit<>(Optional.empty(), added, items, appended, deleted, ordered);
            case APPEND -> new ListEdit<>(Optional.empty(), added, prepended, items, deleted, ordered);
            case DELETE -> new ListEdit<>(Optional.empty(), added, prepended, appended, items, ordered);
            case REORDER -> new ListEdit<>(Optional.empty(), added, prepended, appended, deleted, items);
        };
    }

    public List<T> items(Operation operation) {
        return switch (operation) {
            case EXPLICIT -> explicit.orElse(List.of());
            case ADD -> added;
            case PREPEND -> prepended;
            case APPEND -> appended;
            case DELETE -> deleted;
            case REORDER -> ordered;
        };
    }

    public boolean isEmpty() {
        return explicit.isEmpty()
                && added.isEmpty()
                && prepended.isEmpty()
                && appended.isEmpty()
                && deleted.isEmpty()
                && ordered.isEmpty();
    }

    /** The list that results when this edit is applied over a weaker list. Duplicates keep their first place. */
    public List<T> applyTo(List<T> weaker) {
        if (explicit.isPresent()) {
            return List.copyOf(new LinkedHashSet<>(explicit.get()));
        }
        if (weaker.isEmpty() && added.isEmpty() && appended.isEmpty() && prepended.size() < 2) {
            return prepended;
        }
        List<T> result = new ArrayList<>(weaker);
        remove(result, deleted);
        for (T item : added) {
            if (!result.contains(item)) {
                result.add(item);
            }
        }
        remove(result, prepended);
        result.addAll(0, new LinkedHashSet<>(prepended));
        remove(result, appended);
        result.addAll(new LinkedHashSet<>(appended));
        return ordered.isEmpty() ? List.copyOf(result) : reordered(result);
    }

    private static <T> void remove(List<T> items, List<T> unwanted) {
        if (!unwanted.isEmpty()) {
            items.removeAll(new HashSet<>(unwanted));
        }
    }

    /** Each ordered item takes along the items that follow it up to the next ordered one. */
    private List<T> reordered(List<T> items) {
        Set<T> order = new LinkedHashSet<>(ordered);
        order.retainAll(items);
        List<T> result = new ArrayList<>();
        int first = 0;
        while (first < items.size() && !order.contains(items.get(first))) {
            result.add(items.get(first++));
        }
        for (T head : order) {
            int at = items.indexOf(head);
            do {
                result.add(items.get(at++));
            } while (at < items.size() && !order.contains(items.get(at)));
        }
        return List.copyOf(result);
    }

    /** This edit with every item passed through a function. */
    public ListEdit<T> map(UnaryOperator<T> change) {
        return new ListEdit<>(
                explicit.map(items -> map(items, change)),
                map(added, change),
                map(prepended, change),
                map(appended, change),
                map(deleted, change),
                map(ordered, change));
    }

    private static <T> List<T> map(List<T> items, UnaryOperator<T> change) {
        return items.isEmpty() ? items : items.stream().map(change).toList();
    }

    /** This edit with the items for which there is an answer, as the answer has them. */
    public ListEdit<T> mapPresent(Function<T, Optional<T>> change) {
        UnaryOperator<List<T>> each =
                items -> items.stream().map(change).flatMap(Optional::stream).toList();
        return new ListEdit<>(
                explicit.map(each),
                each.apply(added),
                each.apply(prepended),
                each.apply(appended),
                each.apply(deleted),
                each.apply(ordered));
    }
}
