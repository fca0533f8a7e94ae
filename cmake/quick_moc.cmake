# Makes BUILD/moc, the program that sources with Q_OBJECT are read by.
get_target_property(MD_MOC Qt6::moc IMPORTED_LOCATION)
if(NOT MD_MOC)
    get_target_property(MD_MOC Qt6::moc IMPORTED_LOCATION_NONE)
endif()
configure_file(${CMAKE_CURRENT_LIST_DIR}/moc.in ${CMAKE_BINARY_DIR}/moc @ONLY FILE_PERMISSIONS OWNER_READ OWNER_WRITE OWNER_EXECUTE)
