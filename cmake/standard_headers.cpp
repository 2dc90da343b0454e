// A source for the headers that YurvoRoom.cmake has precompiled.
