package pantry.desktop.workplace;

import java.nio.file.Path;
import java.util.List;
import pantry.catalogue.IndexedAsset;
import pantry.library.Library;

/** What one workplace asks of another, which is shown for it. */
public sealed interface Request {
    /** To let the user choose files that are taken in. */
    record ChooseArrivals() implements Request {}

    /** To let the user choose a folder whose files are taken in. */
    record ChooseArrivalFolder() implements Request {}

    /** To put files and folders among the arrivals. */
    record TakeIn(List<Path> files) implements Request {}

    /** To show an asset and its card. */
    record ShowAsset(IndexedAsset item) implements Request {}

    /** To place an asset where the open scene is looked at. */
    record PlaceAsset(IndexedAsset item) implements Request {}

    /** To inspect the version that an asset shows. */
    record InspectAsset(Library library, IndexedAsset asset) implements Request {}

    /** To inspect a file that is among the arrivals. */
    record InspectArrival(Path file) implements Request {}

    /** To show which files use an asset. */
    record ShowUses(IndexedAsset item) implements Request {}

    /** To show what would become of the files that use an asset if its newest version were ready. */
    record WhatIf(IndexedAsset item) implements Request {}

    /** To open a scene's file. */
    record OpenScene(Path file) implements Request {}
}
