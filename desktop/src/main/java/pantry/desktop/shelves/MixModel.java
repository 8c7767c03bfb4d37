package pantry.desktop.shelves;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleObjectProperty;
import pantry.base.PantryException;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.library.Asset;
import pantry.usecase.MixParts;
import pantry.usecase.MixParts.Change;

/** What is wished of a material: which part is mixed in or taken out, and how much shows; the card shows the outcome. */
final class MixModel {
    /** Of the images that are made for looking, pixels. */
    private static final int TRIAL = 256;

    private static final double USUAL_AMOUNT = 0.7;

    private final CardModel.Details details;
    private final CardModel card;
    private final MixParts mix;
    private final LatestWork trials;
    private final ReadOnlyObjectWrapper<MixParts.Available> available =
            new ReadOnlyObjectWrapper<>(MixParts.Available.NOTHING);
    private final ReadOnlyObjectWrapper<List<MixParts.Mixed>> mixed = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyBooleanWrapper read = new ReadOnlyBooleanWrapper();
    private final ObjectProperty<Optional<Asset>> part = new SimpleObjectProperty<>(Optional.empty());
    private final DoubleProperty amount = new SimpleDoubleProperty(USUAL_AMOUNT);
    private final ObjectProperty<Where> where = new SimpleObjectProperty<>(Where.EVERYWHERE);
    private final BooleanProperty out = new SimpleBooleanProperty();
    private final ReadOnlyObjectWrapper<Optional<Wish>> wish = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyStringWrapper problem = new ReadOnlyStringWrapper("");
    private boolean ended;

    /**
     * A change that can be published.
     *
     * @param note what is said of it where the user says nothing else
     */
    record Wish(Change change, String note) {}

    /**
     * Where a part shows.
     *
     * @param masked whether a mask says it
     * @param by the part whose mask that is; empty for its own
     */
    record Where(boolean masked, Optional<Asset> by) {
        static final Where EVERYWHERE = new Where(false, Optional.empty());
        static final Where OWN_MASK = new Where(true, Optional.empty());

        /** For a person. */
        String words() {
            return by.map(part -> "where the mask of " + part.card().name() + " says")
                    .orElse(masked ? "where its own mask says" : "everywhere");
        }
    }

    /** @param card of the material, which shows what it would become */
    MixModel(Session session, CardModel.Details details, CardModel card) {
        this.details = details;
        this.card = card;
        this.mix = details.mixParts(session);
        this.trials = new LatestWork(session.background());
        part.addListener(change -> chosen());
        List.of(amount, where, out).forEach(each -> each.addListener(change -> tryOut()));
        new LatestWork(session.background())
                .quietly(
                        "looking for material parts",
                        progress -> new Found(mix.available(), mix.parts(details.asset())),
                        this::found,
                        this::failed);
    }

    private record Found(MixParts.Available available, List<MixParts.Mixed> mixed) {}

    private void found(Found found) {
        available.set(found.available());
        mixed.set(found.mixed());
        read.set(true);
        // What is mixed in already is what one comes back for.
        part.set(found.mixed().reversed().stream()
                .flatMap(each -> each.asset().stream())
                .filter(found.available().parts()::containsKey)
                .findFirst()
                .or(() -> found.available().parts().keySet().stream().findFirst()));
    }

    /** The parts that the library has, ready to be used. */
    ReadOnlyObjectProperty<MixParts.Available> availableProperty() {
        return available.getReadOnlyProperty();
    }

    /** Where the part that is chosen can show: where its own mask says, where that of another one does, or everywhere. */
    List<Where> wheres() {
        List<Where> wheres = new ArrayList<>();
        if (hasMask()) {
            wheres.add(Where.OWN_MASK);
        }
        wheres.add(Where.EVERYWHERE);
        available.get().masks().stream()
                .filter(mask -> part.get().filter(mask::equals).isEmpty())
                .forEach(mask -> wheres.add(new Where(true, Optional.of(mask))));
        return wheres;
    }

    /** Whether it is known by now which parts there are. */
    ReadOnlyBooleanProperty readProperty() {
        return read.getReadOnlyProperty();
    }

    /** The parts that are mixed in already, the lowest first. */
    ReadOnlyObjectProperty<List<MixParts.Mixed>> mixedProperty() {
        return mixed.getReadOnlyProperty();
    }

    ObjectProperty<Optional<Asset>> partProperty() {
        return part;
    }

    /** How much of the part shows, 0 to 1. */
    DoubleProperty amountProperty() {
        return amount;
    }

    /** Where it shows; one of {@link #wheres}. */
    ObjectProperty<Where> whereProperty() {
        return where;
    }

    /** Whether it is taken out. */
    BooleanProperty outProperty() {
        return out;
    }

    /** What can be published; empty where nothing is chosen, or it cannot be done. */
    ReadOnlyObjectProperty<Optional<Wish>> wishProperty() {
        return wish.getReadOnlyProperty();
    }

    /** Why what is wished cannot be done; empty where it can. */
    ReadOnlyStringProperty problemProperty() {
        return problem.getReadOnlyProperty();
    }

    private boolean hasMask() {
        return part.get()
                .map(asset -> available.get().parts().getOrDefault(asset, false))
                .orElse(false);
    }

    /** How the part that is chosen is mixed in already. */
    Optional<MixParts.Mixed> already() {
        return part.get().flatMap(asset -> mixed.get().stream()
                .filter(each -> each.asset()
                        .filter(other -> other.card().id().equals(asset.card().id()))
                        .isPresent())
                .findFirst());
    }

    private void chosen() {
        Optional<MixParts.Mixed> before = already();
        out.set(false);
        before.ifPresent(each -> amount.set(each.amount().orElse(USUAL_AMOUNT)));
        where.set(before.map(this::where).orElse(wheres().getFirst()));
        tryOut();
    }

    private Where where(MixParts.Mixed mixed) {
        return wheres().stream()
                .filter(each -> each.masked() == mixed.masked()
                        && each.by()
                                .equals(mixed.by()
                                        .flatMap(MixParts.Mask::asset)
                                        .map(mask -> sameOf(available.get().masks(), mask))))
                .findFirst()
                .orElse(wheres().getFirst());
    }

    /** An asset as it stands in a list, which may be another state of it. */
    private static Asset sameOf(List<Asset> assets, Asset asset) {
        return assets.stream()
                .filter(each -> each.card().id().equals(asset.card().id()))
                .findFirst()
                .orElse(asset);
    }

    private void tryOut() {
        if (ended || part.get().isEmpty()) {
            return;
        }
        Asset asset = part.get().get();
        String name = asset.card().name();
        Change change = out.get()
                ? new Change.Out(asset)
                : new Change.In(
                        asset,
                        Math.round(100 * amount.get()) / 100.0,
                        where.get().masked(),
                        where.get().by());
        String note = out.get()
                ? "without " + name
                : "with " + Math.round(100 * amount.get()) + " % " + name
                        + (where.get().equals(wheres().getFirst())
                                ? ""
                                : " " + where.get().words());
        wish.set(Optional.of(new Wish(change, note)));
        problem.set("");
        trials.quietly(
                "mixing " + name + " into " + details.item().name(),
                progress -> mix.outcome(details.asset(), change, TRIAL, progress),
                outcome -> {
                    if (!ended) {
                        card.tryOut(outcome.model());
                    }
                },
                this::failed);
    }

    private void failed(PantryException why) {
        wish.set(Optional.empty());
        problem.set(String.valueOf(why.getMessage()));
    }

    /** Shows the material as it is again. */
    void end() {
        ended = true;
        trials.drop();
        card.showAsItIs();
    }
}
